package pantry.usd.compose;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Supplier;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;

/**
 * Layers that bring in each other, made from a seed. Arcs lead to layers and classes further on only, and classes
 * bring in no layers, so that none turns in a circle.
 */
final class GeneratedTrees {
    private static final int FILES = 3;
    private static final int CLASSES = 3;
    private static final List<String> NAMES = List.of("A", "B", "C");
    private static final List<String> VALUES = List.of("u", "v", "w");

    /** What prims of the same layer refer to; it refers to nothing itself. */
    private static final SdfPath PART = SdfPath.ROOT.child("Part");

    private final Random random;
    private final boolean simple;

    /**
     * Whether references lead to prims below the root, rather than that there are classes: how classes that come through
     * several such references are ordered among each other is told by no clause known here.
     */
    private final boolean belowRoot;

    /** @param simple only what tinyusdz composes: references, payloads and sublayers with values */
    private GeneratedTrees(long seed, boolean simple) {
        this.random = new Random(seed);
        this.simple = simple;
        this.belowRoot = !simple && random.nextInt(3) == 0;
    }

    /** Layers by the names that they call each other; the first is the one to be opened. */
    static Map<String, Layer> of(long seed, boolean simple) {
        return new GeneratedTrees(seed, simple).layers();
    }

    private Map<String, Layer> layers() {
        Map<String, Layer> layers = new LinkedHashMap<>();
        for (int file = 0; file < FILES; file++) {
            String name = name(file);
            layers.put(name, layer(file, false));
            if (random.nextBoolean()) {
                String below = "below" + file + ".usda";
                layers.put(below, layer(file, true));
                layers.get(name).subLayers().add(new Layer.SubLayer(below, LayerOffset.NONE));
            }
        }
        return layers;
    }

    private static String name(int file) {
        return "file" + file + ".usda";
    }

    /** @param below whether the layer is a sublayer of the file's own, with opinions of the same prims */
    private Layer layer(int file, boolean below) {
        Layer layer = Layer.anonymous();
        layer.metadata().put("defaultPrim", new Value.Token("A"));
        for (int number = 0; number < (simple ? 0 : CLASSES); number++) {
            if (random.nextInt(3) > 0) {
                PrimSpec spec = layer.root().add(new PrimSpec(Specifier.CLASS, "", "_K" + number));
                contents(spec, FILES - 1, number + 1, 1, SdfPath.ROOT.child("_K" + number));
            }
        }
        if (!simple && !belowRoot) {
            part(layer.root().add(new PrimSpec(Specifier.DEF, "", PART.name())));
        }
        for (String name : NAMES.subList(0, 1 + random.nextInt(2))) {
            PrimSpec spec = layer.root()
                    .add(new PrimSpec(
                            below || file > 0 && random.nextInt(4) == 0 && !simple ? Specifier.OVER : Specifier.DEF,
                            "",
                            name));
            contents(spec, simple && below ? FILES - 1 : file, 0, file == 0 ? 2 : 1, SdfPath.ROOT.child(name));
        }
        return layer;
    }

    /** @param firstClass the first of the classes that may be inherited and specialized */
    private void contents(PrimSpec spec, int file, int firstClass, int depth, SdfPath path) {
        for (String value : VALUES) {
            if (random.nextInt(3) == 0) {
                boolean block = !simple && random.nextInt(8) == 0;
                spec.set("int", value, block ? new Value.Block() : new Value.Int(random.nextInt(1000)));
            }
        }
        if (!simple && random.nextInt(4) == 0) {
            RelationshipSpec to = new RelationshipSpec("to");
            spec.put(to.setTargets(edit(() -> target(path))));
        }
        if (!simple && random.nextInt(5) == 0) {
            AttributeSpec from = new AttributeSpec("from", "int");
            spec.put(from.setConnections(edit(() -> target(path).property(one(VALUES)))));
        }
        arcs(spec, file, firstClass, depth == 0);
        if (depth > 0) {
            for (String name : NAMES) {
                if (random.nextInt(4) == 0) {
                    PrimSpec child = spec.add(new PrimSpec(
                            random.nextInt(3) == 0 && !simple ? Specifier.OVER : Specifier.DEF,
                            random.nextInt(3) == 0 && !simple ? one(List.of("Xform", "Scope")) : "",
                            name));
                    contents(child, file, firstClass, depth - 1, path.child(name));
                }
            }
        }
        if (!simple && random.nextInt(7) == 0) {
            variants(spec, file, firstClass, depth, path);
        }
        if (!simple && !path.toString().startsWith("/_K") && random.nextInt(4) == 0) {
            spec.metadata()
                    .put("variants", new Value.Selections(Map.of(one(List.of("s", "t")), one(List.of("a", "b")))));
        }
        if (!simple && random.nextInt(12) == 0) {
            spec.metadata().put("active", new Value.Bool(random.nextBoolean()));
        }
    }

    private void variants(PrimSpec spec, int file, int firstClass, int depth, SdfPath path) {
        String set = one(List.of("s", "t"));
        spec.setVariantSetNames(set);
        for (String variant : List.of("a", "b")) {
            PrimSpec contents = spec.variant(set, variant).contents();
            for (String value : VALUES) {
                if (random.nextInt(2) == 0) {
                    contents.set("int", value, new Value.Int(random.nextInt(1000)));
                }
            }
            arcs(contents, file, firstClass, true);
            if (depth > 0 && random.nextBoolean()) {
                String name = one(NAMES);
                PrimSpec child = contents.add(new PrimSpec(Specifier.DEF, "", name));
                contents(child, file, firstClass, 0, path.child(name));
            }
        }
    }

    private void part(PrimSpec part) {
        part.put(new RelationshipSpec("to").setTargets(edit(() -> target(PART))));
        PrimSpec child = part.add(new PrimSpec(Specifier.DEF, "", one(NAMES)));
        AttributeSpec from = new AttributeSpec("from", "int");
        child.put(from.setConnections(edit(() -> target(PART).property(one(VALUES)))));
    }

    /** The prim itself, one below it, or one anywhere in the layer. */
    private SdfPath target(SdfPath path) {
        SdfPath any = SdfPath.ROOT.child(one(NAMES));
        return switch (random.nextInt(4)) {
            case 0 -> path;
            case 1 -> path.child(one(NAMES));
            case 2 -> any;
            default -> any.child(one(NAMES));
        };
    }

    /** @param leaf whether the prim gets no children of its own, as tinyusdz needs where there is an arc */
    private void arcs(PrimSpec spec, int file, int firstClass, boolean leaf) {
        Map<String, Value> metadata = spec.metadata();
        if (simple) {
            // It keeps the children of one arc, and of the prim itself only where there is none.
            if (leaf && file + 1 < FILES && random.nextBoolean()) {
                metadata.put(one(List.of("references", "payload")), new Value.ReferenceEdit(references(file)));
            }
            return;
        }
        if (file + 1 < FILES && random.nextInt(7) == 0) {
            metadata.put("references", new Value.ReferenceEdit(references(file)));
        }
        if (file + 1 < FILES && random.nextInt(14) == 0) {
            metadata.put("payload", new Value.ReferenceEdit(references(file)));
        }
        if (!belowRoot && random.nextInt(10) == 0) {
            metadata.put("references", new Value.ReferenceEdit(ListEdit.prepend(List.of(Reference.internal(PART)))));
        }
        if (!belowRoot && firstClass < CLASSES) {
            if (random.nextInt(6) == 0) {
                metadata.put("inherits", new Value.PathEdit(edit(() -> aClass(firstClass))));
            }
            if (random.nextInt(10) == 0) {
                metadata.put("specializes", new Value.PathEdit(edit(() -> aClass(firstClass))));
            }
        }
    }

    private ListEdit<Reference> references(int file) {
        return simple ? ListEdit.prepend(List.of(Reference.to(laterFile(file)))) : edit(() -> reference(file));
    }

    private Reference reference(int file) {
        return switch (belowRoot ? random.nextInt(3) : 2 * random.nextInt(2)) {
            case 0 -> Reference.to(laterFile(file));
            case 1 -> new Reference(laterFile(file), Optional.of(SdfPath.of("/A/" + one(NAMES))), LayerOffset.NONE);
            default -> new Reference(laterFile(file), Optional.of(SdfPath.of("/" + one(NAMES))), LayerOffset.NONE);
        };
    }

    private String laterFile(int file) {
        return name(file + 1 + random.nextInt(FILES - file - 1));
    }

    private SdfPath aClass(int first) {
        return SdfPath.ROOT.child("_K" + (first + random.nextInt(CLASSES - first)));
    }

    private <T> ListEdit<T> edit(Supplier<T> item) {
        List<T> items = new ArrayList<>();
        for (int i = 0; i <= random.nextInt(2); i++) {
            items.add(item.get());
        }
        ListEdit.Operation operation =
                switch (random.nextInt(6)) {
                    case 0 -> ListEdit.Operation.EXPLICIT;
                    case 1 -> ListEdit.Operation.DELETE;
                    case 2 -> ListEdit.Operation.APPEND;
                    default -> ListEdit.Operation.PREPEND;
                };
        return ListEdit.<T>none().with(operation, items);
    }

    private <T> T one(List<T> choices) {
        return choices.get(random.nextInt(choices.size()));
    }
}
