package pantry.scene;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Owner;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.render.RenderCache;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.text.UsdaWriter;
import pantry.workpiece.Shelving;
import pantry.workpiece.Workpiece;

/** What a scene says otherwise about the insides of a placement; dropped one by one, or written back to the asset. */
public final class Overrides {
    private final SceneLayer scene;

    Overrides(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * One override.
     *
     * @param path of a property, or of a prim that the scene adds or switches
     * @param says in the words of the text format
     */
    public record Opinion(SdfPath path, String says) {}

    /** The overrides inside of a placement; its own place and what it shows do not count. */
    public List<Opinion> of(SdfPath placement) {
        List<Opinion> found = new ArrayList<>();
        PrimSpec prim = own(placement);
        prim.children().forEach(child -> collect(placement.child(child.name()), child, found));
        return found;
    }

    /** What is said of the parts of a placement, part by part, in words for a person. */
    public List<OverrideSentence> told(SdfPath placement) {
        return OverrideSentences.of(scene, placement, own(placement));
    }

    private PrimSpec own(SdfPath placement) {
        if (new Placements(scene).at(placement).isEmpty()) {
            throw new SceneException(scene.file(), "<" + placement + "> is no placement");
        }
        return scene.spec(placement).orElseThrow();
    }

    private static void collect(SdfPath at, PrimSpec prim, List<Opinion> found) {
        if (prim.specifier() != Specifier.OVER) {
            found.add(new Opinion(at, "is added"));
            return;
        }
        prim.metadata().forEach((field, value) -> {
            // What is changed inside of an instance ends its sharing; that says nothing by itself.
            if (!field.equals("instanceable")) {
                found.add(new Opinion(at, UsdaWriter.writeField(field, value).replaceAll("\\s+", " ")));
            }
        });
        for (PropertySpec property : prim.properties()) {
            found.add(new Opinion(at.property(property.name()), says(property)));
        }
        prim.children().forEach(child -> collect(at.child(child.name()), child, found));
    }

    private static String says(PropertySpec property) {
        return switch (property) {
            case AttributeSpec attribute ->
                attribute
                        .value()
                        .map(value -> UsdaWriter.write(attribute.typeName(), value))
                        .orElse("declared");
            case RelationshipSpec relationship ->
                relationship.targets().applyTo(List.of()).toString();
        };
    }

    /** Says what a placement shows otherwise: a value inside of it. It no longer shares its insides with others. */
    public void set(SdfPath attribute, String typeName, Value value) {
        SdfPath placement = new Placements(scene)
                .all().stream()
                        .map(Placement::path)
                        .filter(path -> attribute.startsWith(path))
                        .findFirst()
                        .orElseThrow(() -> new SceneException(scene.file(), "<" + attribute + "> is in no placement"));
        scene.editor().changeAll("changed " + attribute.name(), edits -> {
            edits.setField(placement, "instanceable", new Value.Bool(false));
            edits.set(attribute, typeName, value);
        });
    }

    /** Lets overrides go. A placement of which nothing is said otherwise any more shares its insides again. */
    public void drop(List<SdfPath> paths) {
        PlacementParts parts = new PlacementParts(scene);
        scene.editor().changeAll("dropped " + paths.size() + " overrides", edits -> {
            paths.forEach(path -> drop(edits, path));
            paths.stream()
                    .flatMap(path -> parts.placementOf(path.prim()).stream())
                    .distinct()
                    .forEach(placement -> parts.tidy(edits, placement));
        });
    }

    private static void drop(Transaction edits, SdfPath path) {
        if (path.isProperty()) {
            edits.clear(path);
        } else {
            edits.clearPrim(path);
        }
    }

    /**
     * What a version is made with.
     *
     * @param library tells the library that a file is of
     */
    public record Publisher(Function<Path, Optional<Library>> library, Workpiece.Sources sources, RenderCache cache) {}

    /**
     * Writes the overrides of a placement back to its asset, as the next version. The placement follows it from then on,
     * and its overrides are gone from the scene.
     *
     * @throws SceneException where it is of no library, or has no overrides
     */
    public Published writeBack(SdfPath placement, String note, Publisher by, Progress progress) {
        Published published = publish(placement, note, by, progress);
        follow(placement, published);
        return published;
    }

    /**
     * The first half of {@link #writeBack}: publishes the version; the scene stays as it is.
     *
     * @throws SceneException where it is no placement or has no overrides
     */
    public Published publish(SdfPath placement, String note, Publisher by, Progress progress) {
        Placement placed = new Placements(scene)
                .at(placement)
                .orElseThrow(() -> new SceneException(scene.file(), "<" + placement + "> is no placement"));
        if (of(placement).isEmpty()) {
            throw new SceneException(scene.file(), "<" + placement + "> has no overrides to write back");
        }
        Library home = by.library()
                .apply(placed.layer())
                .orElseThrow(() -> new SceneException(placed.layer(), "is of no open library"));
        Owner owner = home.owner(placed.layer())
                .orElseThrow(() -> new SceneException(
                        placed.layer(), "is no asset of " + home.info().name()));
        Asset asset = owner.asset();
        String version = owner.version().or(asset::ready).orElseThrow();
        Workpiece piece = Workpiece.of(new Workpiece.Shelved(home, asset, version), by.sources());
        SdfPath root = piece.layer()
                .defaultPrimPath()
                .orElseThrow(() -> new SceneException(piece.source(), "does not say which of its prims is the root"));
        WrittenBack written = new WrittenBack(scene, placement, piece, root);
        piece.editor()
                .changeAll(
                        "written back from " + scene.file().getFileName(),
                        edits -> written.write(edits, own(placement)));
        return Shelving.publish(piece, VersionStatus.READY, note, by.cache(), progress);
    }

    /** The second half of {@link #writeBack}: lets the placement follow what was published, without its overrides. */
    public void follow(SdfPath placement, Published published) {
        List<PrimSpec> overrides = List.copyOf(own(placement).children());
        scene.editor().changeAll("wrote back " + placement.name(), edits -> {
            overrides.forEach(child -> edits.clearPrim(placement.child(child.name())));
            edits.change(placement, prim -> {
                prim.replaceReferences(Reference.to(AssetPaths.relative(
                        scene.file().getParent(), published.asset().readyLayer())));
                prim.metadata().put("instanceable", new Value.Bool(true));
            });
        });
        scene.reload();
    }
}
