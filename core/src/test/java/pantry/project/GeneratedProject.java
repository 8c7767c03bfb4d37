package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * Assets, assets made of these, and scenes that use them in all the ways there are, made from a seed. Now and then a
 * scene leads back to itself.
 */
final class GeneratedProject {
    private static final List<String> NAMES = List.of("A", "B", "C", "D");
    private static final int DEEPEST = 3;
    private static final SdfPath ROOT = SdfPath.ROOT.child("Root");

    private final Random random;
    private final Path root;
    private final List<Path> targets = new ArrayList<>();

    /** Of these, what inherits nothing. */
    private final List<Path> plain = new ArrayList<>();

    private GeneratedProject(Path root, long seed) {
        this.root = root;
        this.random = new Random(seed);
    }

    /** Writes the files; tells the scenes. */
    static List<Path> in(Path root, long seed) throws IOException {
        return new GeneratedProject(root, seed).make();
    }

    private List<Path> make() throws IOException {
        for (int i = 0; i < 3; i++) {
            asset("leaf" + i, false);
        }
        for (int i = 0; i < 3; i++) {
            asset("made" + i, true);
        }
        List<Path> scenes = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            Path scene = root.resolve("project/scene" + i + ".usda");
            Layer layer = Layer.inMetres(scene, "Root");
            if (random.nextInt(3) == 0) {
                clazz(layer, scene);
            }
            if (!scenes.isEmpty() && random.nextInt(3) == 0) {
                layer.subLayers().add(new Layer.SubLayer("./scene" + random.nextInt(i) + ".usda", LayerOffset.NONE));
            }
            fill(layer.root().define("Xform", "Root"), ROOT, scene, 0);
            if (random.nextInt(4) == 0) {
                fill(layer.root().define("Xform", "Second"), SdfPath.ROOT.child("Second"), scene, 1);
            }
            if (random.nextInt(6) == 0) {
                // It leads back to itself, or to one that does not exist yet.
                reference(
                        layer.root().define("", "Circle"),
                        scene,
                        root.resolve("project/scene" + random.nextInt(5) + ".usda"));
            }
            write(layer, scene);
            scenes.add(scene);
            targets.add(scene);
        }
        return scenes;
    }

    private void asset(String name, boolean made) throws IOException {
        Path folder = root.resolve("library/assets/" + name);
        Files.createDirectories(folder);
        Files.writeString(folder.resolve("card.json"), "{}");
        int versions = 1 + random.nextInt(2);
        for (int version = 1; version <= versions; version++) {
            Path entry = folder.resolve("v00" + version + "/data/" + name + ".usda");
            Layer layer = Layer.inMetres(entry, name);
            PrimSpec prim = layer.root().define("Xform", name);
            if (made) {
                fill(prim, SdfPath.ROOT.child(name), entry, 1);
            } else {
                Path geometry = entry.resolveSibling(name + ".geom.usda");
                Layer shapes = Layer.inMetres(geometry, name);
                shapes.root().define("Xform", name).define("Mesh", "Body");
                write(shapes, geometry);
                prim.setPayloads(Reference.to("./" + name + ".geom.usda"));
            }
            if (random.nextInt(3) == 0) {
                variants(prim, entry, made);
            }
            if (random.nextInt(4) == 0) {
                clazz(layer, entry);
            } else if (!made) {
                plain.add(entry);
            }
            write(layer, entry);
            targets.add(entry);
        }
        Path ready = folder.resolve("ready.usda");
        Layer layer = Layer.inMetres(ready, name);
        reference(
                layer.root().define("", name),
                ready,
                folder.resolve("v00" + (1 + random.nextInt(versions)) + "/data/" + name + ".usda"));
        write(layer, ready);
        targets.add(ready);
        if (random.nextInt(8) == 0) {
            targets.add(folder.resolve("v009/data/gone.usda"));
        }
    }

    private static void write(Layer layer, Path file) throws IOException {
        Files.createDirectories(file.getParent());
        LayerFiles.write(layer, file);
    }

    /** A class beside the roots that something may inherit, which has contents of its own. */
    private void clazz(Layer layer, Path file) {
        PrimSpec spec = layer.root().add(new PrimSpec(Specifier.CLASS, "", "_Kind"));
        if (!plain.isEmpty() && random.nextBoolean()) {
            // Not of what inherits it in turn, which would nest without end.
            reference(spec.define("Xform", "Inherited"), file, plain.get(random.nextInt(plain.size())));
        }
        layer.rootPrims().stream()
                .filter(prim -> prim.specifier() == Specifier.DEF && random.nextBoolean())
                .forEach(prim -> inherit(prim));
    }

    private static void inherit(PrimSpec prim) {
        prim.metadata().put("inherits", new Value.PathEdit(ListEdit.prepend(List.of(SdfPath.ROOT.child("_Kind")))));
    }

    private void fill(PrimSpec parent, SdfPath path, Path file, int depth) {
        int count = 1 + random.nextInt(3);
        for (String name : NAMES.subList(0, count)) {
            Specifier specifier = random.nextInt(8) == 0 ? Specifier.OVER : Specifier.DEF;
            PrimSpec prim = parent.add(new PrimSpec(specifier, specifier == Specifier.DEF ? "Xform" : "", name));
            if (random.nextInt(8) == 0) {
                prim.metadata().put("active", new Value.Bool(random.nextBoolean()));
            }
            switch (random.nextInt(9)) {
                case 0 -> instancer(prim, path.child(name), file);
                case 1 -> variants(prim, file, true);
                case 2 -> inherit(prim);
                case 3 -> {
                    if (depth < DEEPEST) {
                        fill(prim, path.child(name), file, depth + 1);
                    }
                }
                case 4 -> prim.setReferences(Reference.internal(ROOT.child(NAMES.getFirst())));
                default -> place(prim, file);
            }
        }
    }

    private void place(PrimSpec prim, Path file) {
        if (targets.isEmpty()) {
            return;
        }
        reference(prim, file, targets.get(random.nextInt(targets.size())));
        if (random.nextInt(2) == 0) {
            prim.metadata().put("instanceable", new Value.Bool(true));
        }
        if (random.nextInt(4) == 0) {
            prim.select("look", random.nextBoolean() ? "first" : "second");
        }
        if (random.nextInt(6) == 0) {
            // Something is said of what it is made of.
            PrimSpec over = prim.add(new PrimSpec(Specifier.OVER, "", NAMES.get(random.nextInt(NAMES.size()))));
            over.metadata().put("active", new Value.Bool(false));
        }
        if (random.nextInt(10) == 0) {
            prim.setPayloads(reference(file, targets.get(random.nextInt(targets.size()))));
        }
    }

    private void reference(PrimSpec prim, Path file, Path target) {
        prim.setReferences(reference(file, target));
    }

    private Reference reference(Path file, Path target) {
        Optional<SdfPath> part = random.nextInt(8) == 0 && target.toString().contains("scene")
                ? Optional.of(ROOT.child(NAMES.get(random.nextInt(2))))
                : Optional.empty();
        return new Reference(AssetPaths.relative(file.getParent(), target), part, LayerOffset.NONE);
    }

    private void variants(PrimSpec prim, Path file, boolean places) {
        prim.setVariantSetNames("look");
        for (String name : List.of("first", "second")) {
            PrimSpec contents = prim.variant("look", name).contents();
            PrimSpec child = contents.define("Xform", "Look" + name);
            if (places && random.nextBoolean()) {
                place(child, file);
            }
        }
        if (random.nextInt(3) > 0) {
            prim.select("look", "first");
        }
    }

    private void instancer(PrimSpec prim, SdfPath path, Path file) {
        prim.setTypeName("PointInstancer");
        prim.setSpecifier(Specifier.DEF);
        PrimSpec prototypes = prim.define("Scope", "Prototypes");
        place(prototypes.define("Xform", "One"), file);
        place(prototypes.define("Xform", "Two"), file);
        int count = 1 + random.nextInt(4);
        int[] indices = random.ints(count, 0, 2).toArray();
        prim.set("int[]", "protoIndices", new Value.Ints(indices, 1));
        prim.set("point3f[]", "positions", new Value.Floats(new float[3 * count], 3));
        if (random.nextInt(3) == 0) {
            prim.set("int64[]", "invisibleIds", new Value.Longs(new long[] {0}));
        }
        SdfPath kept = path.child("Prototypes");
        prim.relate("prototypes", kept.child("One"), kept.child("Two"));
    }
}
