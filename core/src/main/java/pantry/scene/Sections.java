package pantry.scene;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.edit.ChangeEffect;
import pantry.usd.edit.PathRemapping;
import pantry.usd.file.LayerFiles;

/**
 * Sections: parts of a scene in files of their own, which the scene references, so that several people can work at once;
 * and put together again.
 */
public final class Sections {
    private final SceneLayer scene;

    Sections(SceneLayer scene) {
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
            requireWhole(path, prim, Set.copyOf(paths));
            PrimSpec copy = prim.copy();
            PathRemapping.apply(copy, target -> target.replacePrefix(scene.root(), SdfPath.ROOT.child(rootName)));
            root.add(copy);
        }
        Set<SdfPath> shared = Instancing.needed(scene.layer(), paths);
        if (!shared.isEmpty()) {
            PrimSpec scope = root.add(new PrimSpec(Specifier.CLASS, "Scope", Instancing.SHAPES));
            for (SdfPath path : shared) {
                PrimSpec shape = scene.layer().prim(path).orElseThrow().copy();
                PathRemapping.apply(shape, target -> target.replacePrefix(scene.root(), SdfPath.ROOT.child(rootName)));
                scope.add(shape);
            }
        }
        // Sections stand beside their scene, so relative paths stay.
        LayerFiles.write(section, file);
        SdfPath reference = scene.editor().change("cut out " + name, edits -> {
            paths.forEach(edits::remove);
            SdfPath at = scene.root().child(ChildNames.free(edits, scene.root(), name));
            PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", at.name());
            prim.setReferences(Reference.to(AssetPaths.relative(scene.file().getParent(), file)));
            edits.add(scene.root(), prim);
            return at;
        });
        scene.editor().attach(written(file));
        return reference;
    }

    /** The file goes with the cut that is taken back, unless somebody has changed it since, and comes again with it. */
    private static ChangeEffect written(Path file) {
        byte[] contents = contents(file);
        return new ChangeEffect() {
            @Override
            public void undo() {
                if (!Files.exists(file)) {
                    return;
                }
                if (!Arrays.equals(contents(file), contents)) {
                    throw new SceneException(file, "was changed since it was cut out, and stays");
                }
                try {
                    Files.delete(file);
                } catch (IOException e) {
                    throw new SceneException(file, "stays: it cannot be removed: " + IoProblems.describe(e));
                }
            }

            @Override
            public void redo() {
                if (Files.exists(file)) {
                    if (Arrays.equals(contents(file), contents)) {
                        return;
                    }
                    throw new SceneException(file, "is another file by now; it is not written over");
                }
                try {
                    AtomicFiles.write(file, contents);
                } catch (IOException e) {
                    throw new SceneException(file, "cannot be written again: " + IoProblems.describe(e));
                }
            }
        };
    }

    private static byte[] contents(Path file) {
        try {
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw new SceneException(file, "cannot be read: " + IoProblems.describe(e));
        }
    }

    private void requireWhole(SdfPath at, PrimSpec prim, Set<SdfPath> paths) {
        for (PropertySpec property : prim.properties()) {
            if (property instanceof RelationshipSpec relationship) {
                for (SdfPath target : relationship.targets().applyTo(List.of())) {
                    if (!target.startsWithAny(paths)) {
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
        return new Placements(scene).all().stream().filter(this::isSection).toList();
    }

    /**
     * Takes a section's contents back into the scene. Its file stays.
     *
     * @param who takes it back
     * @return the objects
     * @throws SceneException where the section has overrides inside, which would be lost, or somebody else holds it
     */
    public List<SdfPath> join(SdfPath path, String who) {
        Placement placement = section(path);
        requireOwn(placement.layer(), who);
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
                PathRemapping.apply(copy, target -> target.replacePrefix(root, path));
                edits.add(path, copy);
                hung.add(path.child(child.name()));
            }
            return hung;
        });
    }

    /** That somebody works on a section. */
    public record Hold(String who) {}

    /** Who holds a section; empty where nobody does. */
    public Optional<Hold> holder(SdfPath path) {
        return read(hold(path));
    }

    /** Who holds a section's file; empty where nobody does. */
    public static Optional<Hold> holder(Path file) {
        return read(hold(file));
    }

    /** The section that a prim references; empty where it is none. */
    public Optional<Placement> at(SdfPath path) {
        return new Placements(scene).at(path).filter(this::isSection);
    }

    /** Whether a placement is of a section: of a file beside the scene. */
    public boolean isSection(Placement placement) {
        return placement.held() == Placement.Held.FILE
                && scene.folder().equals(placement.layer().getParent());
    }

    private static Optional<Hold> read(Path hold) {
        return Files.exists(hold) ? Optional.of(Json.read(hold, Hold.class)) : Optional.empty();
    }

    private Placement section(SdfPath path) {
        return new Placements(scene)
                .at(path)
                .orElseThrow(() -> new SceneException(scene.file(), "<" + path + "> is no section"));
    }

    private Path hold(SdfPath path) {
        return hold(section(path).layer());
    }

    private static Path hold(Path file) {
        return file.resolveSibling("." + file.getFileName() + ".held.json");
    }

    /**
     * Makes sure that a scene's file may be written: that it is no section that somebody else holds.
     *
     * @param who writes it
     * @throws SceneException where somebody else holds it
     */
    public static void requireFree(Path file, String who) {
        read(hold(file)).filter(hold -> !hold.who().equals(who)).ifPresent(hold -> {
            throw new SceneException(
                    hold.who() + " holds " + Names.stem(file.getFileName().toString())
                            + " and works on it; save it elsewhere, or wait until it is let go");
        });
    }

    /**
     * Holds a section, so that others leave its file alone. Of several people exactly one succeeds.
     *
     * @throws SceneException where somebody else holds it
     */
    public void reserve(SdfPath path, String who) {
        reserve(section(path).layer(), who);
    }

    /** As above, by the section's file. */
    public static void reserve(Path section, String who) {
        Path file = hold(section);
        try {
            AtomicFiles.create(file, Json.write(new Hold(who)));
        } catch (FileAlreadyExistsException e) {
            requireOwn(section, who);
        } catch (IOException e) {
            throw new SceneException(file, "the section cannot be reserved: " + IoProblems.describe(e));
        }
    }

    private static void requireOwn(Path section, String who) {
        holder(section).filter(hold -> !hold.who().equals(who)).ifPresent(hold -> {
            throw new SceneException(hold.who() + " holds the section "
                    + Names.stem(section.getFileName().toString()));
        });
    }

    /**
     * Lets go of a section.
     *
     * @throws SceneException where somebody else holds it
     */
    public void release(SdfPath path, String who) {
        release(section(path).layer(), who);
    }

    /** As above, by the section's file. */
    public static void release(Path section, String who) {
        requireOwn(section, who);
        try {
            Files.deleteIfExists(hold(section));
        } catch (IOException e) {
            throw new SceneException(hold(section), "cannot be removed: " + IoProblems.describe(e));
        }
    }

    /** What of the scene's root stands in a rectangle on the ground, by the middles of their boxes; metres. */
    public List<SdfPath> inArea(Vec3 one, Vec3 other) {
        List<SdfPath> found = new ArrayList<>();
        for (String name : scene.layer().prim(scene.root()).orElseThrow().childNames()) {
            SdfPath path = scene.root().child(name);
            Box3 box = new Arranging(scene).box(path);
            if (!box.isEmpty() && isBetween(box.centre(), one, other)) {
                found.add(path);
            }
        }
        return found;
    }

    private static boolean isBetween(Vec3 at, Vec3 one, Vec3 other) {
        return at.x() >= Math.min(one.x(), other.x())
                && at.x() <= Math.max(one.x(), other.x())
                && at.z() >= Math.min(one.z(), other.z())
                && at.z() <= Math.max(one.z(), other.z());
    }
}
