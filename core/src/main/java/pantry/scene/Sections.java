package pantry.scene;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import pantry.base.Names;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * Sections: parts of a scene in files of their own, which the scene references, so that several people can work at once;
 * and put together again.
 */
public final class Sections {
    private final Scene scene;

    Sections(Scene scene) {
        this.scene = scene;
    }

    /**
     * Cuts objects out into a file of their own, beside the scene. The file is written at once; the scene is changed.
     *
     * @return the prim that references it
     * @throws SceneException where the file is there already, or something stays behind that the objects need
     */
    public SdfPath cut(Collection<SdfPath> paths, String name) {
        if (paths.isEmpty()) {
            throw new SceneException(scene.file(), "nothing is chosen for the section");
        }
        String stem = Names.stem(scene.file().getFileName().toString()) + "-" + Names.slug(name);
        Path file = scene.file().resolveSibling(stem + ".usda");
        if (Files.exists(file)) {
            throw new SceneException(file, "is already there; choose another name for the section");
        }
        String rootName = Names.identifier(name);
        Layer section = Layer.inMetres(file, rootName);
        scene.layer().metadata().forEach((field, value) -> {
            if (field.equals("metersPerUnit") || field.equals("upAxis")) {
                section.metadata().put(field, value);
            }
        });
        PrimSpec root = section.root().define("Xform", rootName);
        root.metadata().put("kind", new Value.Token("group"));
        for (SdfPath path : paths) {
            if (!path.parent().equals(scene.root())) {
                throw new SceneException(
                        scene.file(), "<" + path + "> hangs on something; sections are cut of what hangs on the root");
            }
            PrimSpec prim = scene.layer()
                    .prim(path)
                    .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + "> to cut out"));
            requireWhole(path, prim, paths);
            PrimSpec copy = prim.copy();
            lead(copy, scene.root(), SdfPath.ROOT.child(rootName));
            root.add(copy);
        }
        // Sections stand beside their scene, so relative paths stay.
        LayerFiles.write(section, file);
        return scene.editor().change("cut out " + name, edits -> {
            paths.forEach(edits::remove);
            SdfPath at = scene.root().child(Structure.free(edits, scene.root(), name));
            PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", at.name());
            prim.setReferences(Reference.to(AssetPaths.relative(scene.file().getParent(), file)));
            edits.add(scene.root(), prim);
            return at;
        });
    }

    private void requireWhole(SdfPath at, PrimSpec prim, Collection<SdfPath> paths) {
        for (PropertySpec property : prim.properties()) {
            if (property instanceof RelationshipSpec relationship) {
                for (SdfPath target : relationship.targets().applyTo(List.of())) {
                    if (paths.stream().noneMatch(target::startsWith)) {
                        throw new SceneException(
                                scene.file(),
                                "<" + at + "> needs <" + target + "> (" + property.name()
                                        + "), which would stay behind; cut it out too");
                    }
                }
            }
        }
        prim.children().forEach(child -> requireWhole(at.child(child.name()), child, paths));
    }

    /** The sections of the scene, with their files. */
    public List<Placement> all() {
        Path folder = scene.file().getParent();
        return scene.placements().stream()
                .filter(placement -> placement.held() == Placement.Held.FILE
                        && placement.layer().getParent().equals(folder))
                .toList();
    }

    /**
     * Takes a section's contents back into the scene. Its file stays.
     *
     * @return the objects
     */
    public List<SdfPath> join(SdfPath path) {
        Placement placement = scene.placement(path)
                .orElseThrow(() -> new SceneException(scene.file(), "<" + path + "> is no section"));
        Layer section = LayerFiles.read(placement.layer());
        SdfPath root = section.defaultPrimPath()
                .orElseThrow(
                        () -> new SceneException(placement.layer(), "does not say which of its prims is the root"));
        PrimSpec contents = section.prim(root).orElseThrow();
        if (!scene.layer().prim(path).orElseThrow().children().isEmpty()) {
            throw new SceneException(scene.file(), "<" + path + "> has overrides inside; write them back or drop them");
        }
        return scene.editor().change("joined " + path.name(), edits -> {
            List<SdfPath> hung = new ArrayList<>();
            edits.change(path, prim -> {
                prim.metadata().remove("references");
                prim.metadata().remove("instanceable");
                prim.metadata().put("kind", new Value.Token("group"));
            });
            for (PrimSpec child : contents.children()) {
                PrimSpec copy = child.copy();
                lead(copy, root, path);
                edits.add(path, copy);
                hung.add(path.child(child.name()));
            }
            return hung;
        });
    }

    private static void lead(PrimSpec prim, SdfPath from, SdfPath to) {
        for (PropertySpec property : List.copyOf(prim.properties())) {
            if (property instanceof RelationshipSpec relationship) {
                prim.put(relationship
                        .copyAs(relationship.name())
                        .setTargets(relationship.targets().map(path -> path.replacePrefix(from, to))));
            }
        }
        prim.children().forEach(child -> lead(child, from, to));
    }
}
