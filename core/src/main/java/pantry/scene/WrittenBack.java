package pantry.scene;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.IoProblems;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.SpecTargets;
import pantry.usd.Specifier;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.workpiece.Workpiece;

/**
 * The overrides of a placement as the asset itself says them: its own targets, the materials of the scene that they
 * need, and files by where these are from there.
 */
final class WrittenBack {
    private final SceneLayer scene;
    private final SdfPath placement;
    private final Workpiece piece;
    private final SdfPath root;

    /** Where the scene's materials stand in the asset. */
    private final Map<SdfPath, SdfPath> materials = new HashMap<>();

    /** @param root the asset's root prim, which the placement shows */
    WrittenBack(SceneLayer scene, SdfPath placement, Workpiece piece, SdfPath root) {
        this.scene = scene;
        this.placement = placement;
        this.piece = piece;
        this.root = root;
    }

    /** @throws SceneException where they speak of something of the scene that is no material */
    void write(Transaction edits, PrimSpec overrides) {
        for (PrimSpec child : overrides.children()) {
            write(edits, root.child(child.name()), inAsset(edits, child));
        }
    }

    private PrimSpec inAsset(Transaction edits, PrimSpec said) {
        PrimSpec copy = said.copy();
        SpecTargets.remap(copy, path -> Optional.of(remapped(edits, path)));
        LayerAssets.rename(copy, scene.layer(), this::fromAsset);
        return copy;
    }

    private static void write(Transaction edits, SdfPath at, PrimSpec said) {
        if (said.specifier() != Specifier.OVER) {
            edits.add(at.parent(), said);
            return;
        }
        if (edits.stage().prim(at).isEmpty()) {
            return;
        }
        if (!said.metadata().isEmpty() || !said.properties().isEmpty()) {
            edits.change(at, prim -> {
                said.metadata().forEach((field, value) -> {
                    // That it stopped sharing for the scene's sake is nothing to the asset.
                    if (!field.equals("instanceable")) {
                        prim.metadata().put(field, value);
                    }
                });
                said.properties().forEach(prim::put);
            });
        }
        said.children().forEach(child -> write(edits, at.child(child.name()), child));
    }

    private SdfPath remapped(Transaction edits, SdfPath path) {
        if (path.startsWith(placement)) {
            return path.replacePrefix(placement, root);
        }
        SdfPath material = Materials.holding(scene.layer(), path)
                .orElseThrow(
                        () -> new SceneException(
                                scene.file(),
                                "<" + placement + "> speaks of <" + path
                                        + ">, which is neither in it nor a material of this scene; let that override go first"));
        SdfPath known = materials.get(material);
        return path.replacePrefix(material, known == null ? add(edits, material) : known);
    }

    private SdfPath add(Transaction edits, SdfPath material) {
        SdfPath scope = root.child(Materials.SCOPE);
        if (edits.stage().prim(scope).isEmpty()) {
            edits.add(root, new PrimSpec(Specifier.DEF, "Scope", scope.name()));
        }
        SdfPath place = scope.child(ChildNames.free(edits, scope, material.name()));
        materials.put(material, place);
        PrimSpec spec = scene.layer().prim(material).orElseThrow();
        edits.add(scope, inAsset(edits, spec).copyAs(place.name()));
        return place;
    }

    /** An asset path of the scene from the asset's folder; an image that the scene may read comes along. */
    private String fromAsset(String written) {
        Layer layer = scene.layer();
        Path file = scene.place(written).file();
        Path home = Optional.ofNullable(piece.source().getParent()).orElseThrow();
        if (LayerFiles.isLayer(file.getFileName().toString())) {
            return AssetPaths.relative(home, file);
        }
        List<Path> admitted = scene
                .stage()
                .gate()
                .admitImage(file, written, layer.file().orElse(file))
                .stream()
                .toList();
        if (admitted.isEmpty()) {
            throw new SceneException(
                    scene.file(),
                    "names " + written + ", which is not there or may not be read, so the asset cannot have it");
        }
        Path copy = piece.newImage(file.getFileName().toString());
        try {
            Files.copy(admitted.getFirst(), copy);
        } catch (IOException e) {
            throw new SceneException(file, "cannot be copied: " + IoProblems.describe(e));
        }
        return AssetPaths.relative(home, copy);
    }
}
