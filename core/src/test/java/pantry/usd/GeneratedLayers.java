package pantry.usd;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.random.RandomGenerator;
import java.util.stream.IntStream;

/** Layers with something of everything, made from a seed. */
final class GeneratedLayers {
    private static final List<String> SCALARS = List.of(
            "bool",
            "uchar",
            "int",
            "uint",
            "int64",
            "uint64",
            "half",
            "float",
            "double",
            "timecode",
            "string",
            "token",
            "asset");

    private static final List<String> SHAPES = List.of(
            "half2",
            "half3",
            "half4",
            "float2",
            "float3",
            "float4",
            "double2",
            "double3",
            "double4",
            "int2",
            "int3",
            "int4",
            "point3f",
            "normal3f",
            "vector3d",
            "color3f",
            "color4h",
            "texCoord2f",
            "quath",
            "quatf",
            "quatd",
            "matrix2d",
            "matrix3d",
            "matrix4d",
            "frame4d");

    private static final List<String> NAMES = List.of("A", "Mast", "Head_2", "_9", "Größe");

    private final RandomGenerator random;

    GeneratedLayers(RandomGenerator random) {
        this.random = random;
    }

    Layer layer() {
        Layer layer = Layer.inMetres(null, "A");
        if (random.nextBoolean()) {
            layer.metadata().put("doc", new Value.Text(text()));
            layer.metadata().put("framesPerSecond", new Value.Real(real()));
            layer.metadata().put("customLayerData", dictionary(2));
            layer.metadata().put("comment", new Value.Text(text()));
        }
        if (random.nextInt(4) == 0) {
            layer.subLayers().add(new Layer.SubLayer("./below.usda", new LayerOffset(real(), 2)));
            layer.subLayers().add(new Layer.SubLayer("@odd@.usda", LayerOffset.NONE));
            layer.metadata().put("relocates", new Value.Relocates(Map.of(SdfPath.of("/A/B"), SdfPath.of("/A/C"))));
            layer.root().metadata().put("primOrder", new Value.Strings(List.of("Mast", "A")));
        }
        children(layer.root(), 3);
        return layer;
    }

    private void children(PrimSpec parent, int depth) {
        for (int i = random.nextInt(3) + (depth == 3 ? 1 : 0); i > 0; i--) {
            String name = one(NAMES);
            if (parent.child(name).isEmpty()) {
                PrimSpec prim = new PrimSpec(
                        one(List.of(Specifier.values())), one(List.of("", "Xform", "Mesh", "SomeFuture")), name);
                parent.add(prim);
                contents(prim, depth);
            }
        }
    }

    private void contents(PrimSpec prim, int depth) {
        for (int i = random.nextInt(5); i > 0; i--) {
            metadata(prim);
        }
        for (int i = random.nextInt(4); i > 0; i--) {
            prim.put(property("p" + i + (random.nextBoolean() ? ":inner" : "")));
        }
        if (depth > 0) {
            children(prim, depth - 1);
            if (random.nextInt(3) == 0) {
                prim.setVariantSetNames("size", "colour");
                contents(prim.variant("size", "tall").contents(), depth - 1);
                contents(prim.variant("size", "small-1").contents(), depth - 1);
                prim.variant("colour", "red");
            }
        }
    }

    private void metadata(PrimSpec prim) {
        Map<String, Value> metadata = prim.metadata();
        switch (random.nextInt(14)) {
            case 0 -> metadata.put("kind", new Value.Token(one(List.of("component", "group"))));
            case 1 -> metadata.put("active", new Value.Bool(random.nextBoolean()));
            case 2 -> metadata.put("customData", dictionary(2));
            case 3 -> metadata.put("references", new Value.ReferenceEdit(edit(this::reference)));
            case 4 ->
                metadata.put("payload", new Value.ReferenceEdit(edit(() -> {
                    Reference reference = reference();
                    return new Reference(reference.asset(), reference.prim(), reference.offset());
                })));
            case 5 -> metadata.put("inherits", new Value.PathEdit(edit(this::path)));
            case 6 -> metadata.put("specializes", new Value.PathEdit(edit(this::path)));
            case 7 -> metadata.put("apiSchemas", new Value.TokenEdit(edit(() -> one(NAMES) + random.nextInt(9))));
            case 8 -> metadata.put("variants", new Value.Selections(Map.of("size", one(List.of("tall", "", "x")))));
            case 9 -> metadata.put("doc", new Value.Text(text()));
            case 10 -> metadata.put("odd:future", new Value.Unread("[1, (2, \"x\")]"));
            case 11 ->
                metadata.put(
                        "oddEdit",
                        new Value.UnreadEdit(
                                ListEdit.<String>none().with(ListEdit.Operation.APPEND, List.of("[\"a\", \"b\"]"))));
            case 12 -> metadata.put("oddNumber", new Value.Int(random.nextLong()));
            default -> metadata.put("propertyOrder", new Value.Strings(List.of("p2", "p1")));
        }
    }

    private PropertySpec property(String name) {
        if (random.nextInt(5) == 0) {
            RelationshipSpec relationship = new RelationshipSpec(name);
            relationship.setTargets(edit(this::path));
            relationship.setCustom(random.nextBoolean());
            return relationship;
        }
        String type = one(random.nextInt(3) == 0 ? SHAPES : SCALARS);
        boolean array = random.nextBoolean();
        AttributeSpec attribute = new AttributeSpec(name, array ? type + "[]" : type);
        attribute.setCustom(random.nextBoolean());
        attribute.setUniform(random.nextBoolean());
        if (random.nextInt(4) > 0) {
            attribute.setValue(random.nextInt(9) == 0 ? new Value.Block() : value(type, array));
        }
        if (random.nextInt(3) == 0) {
            attribute.timeSamples().put(-1.5, value(type, array));
            attribute.timeSamples().put(real(), new Value.Block());
        }
        if (random.nextInt(4) == 0) {
            attribute.setConnections(edit(() -> path().property("outputs:out")));
        }
        if (random.nextInt(3) == 0) {
            attribute.metadata().put("interpolation", new Value.Token("vertex"));
            attribute.metadata().put("customData", dictionary(1));
        }
        return attribute;
    }

    Value value(String type, boolean array) {
        ValueType shape = ValueType.of(type).orElseThrow();
        if (!array) {
            return scalar(shape);
        }
        int count = random.nextInt(6) == 0 ? 40 : random.nextInt(4);
        int numbers = count * shape.width();
        return switch (shape.scalar()) {
            case BOOL -> {
                boolean[] flags = new boolean[count];
                for (int i = 0; i < count; i++) {
                    flags[i] = random.nextBoolean();
                }
                yield new Value.Bools(flags);
            }
            case UCHAR, INT ->
                new Value.Ints(
                        IntStream.range(0, numbers)
                                .map(i -> (int) whole(shape.scalar()))
                                .toArray(),
                        shape.width());
            case UINT, INT64, UINT64 ->
                new Value.Longs(IntStream.range(0, numbers)
                        .mapToLong(i -> whole(shape.scalar()))
                        .toArray());
            case HALF, FLOAT -> {
                float[] data = new float[numbers];
                for (int i = 0; i < numbers; i++) {
                    data[i] = (float) real(shape.scalar());
                }
                yield new Value.Floats(data, shape.width());
            }
            case DOUBLE, TIMECODE ->
                new Value.Doubles(
                        IntStream.range(0, numbers).mapToDouble(i -> real()).toArray(), shape.width());
            case STRING, TOKEN, ASSET -> {
                List<String> items = new ArrayList<>();
                for (int i = 0; i < count; i++) {
                    items.add(shape.scalar() == ValueType.Scalar.ASSET ? "./a" + i + ".png" : text());
                }
                yield new Value.Strings(items);
            }
        };
    }

    private Value scalar(ValueType shape) {
        if (shape.width() > 1) {
            return new Value.Tuple(IntStream.range(0, shape.width())
                    .mapToDouble(
                            i -> shape.scalar() == ValueType.Scalar.INT ? whole(shape.scalar()) : real(shape.scalar()))
                    .toArray());
        }
        return switch (shape.scalar()) {
            case BOOL -> new Value.Bool(random.nextBoolean());
            case UCHAR, INT, UINT, INT64, UINT64 -> new Value.Int(whole(shape.scalar()));
            case HALF, FLOAT, DOUBLE, TIMECODE -> new Value.Real(real(shape.scalar()));
            case STRING -> new Value.Text(text());
            case TOKEN -> new Value.Token(text());
            case ASSET -> new Value.Asset(one(List.of("", "./a b.png", "x@y.usd", "pack.usdz[in/side.png]")));
        };
    }

    private long whole(ValueType.Scalar scalar) {
        long any = random.nextBoolean() ? random.nextInt(5) : random.nextLong();
        return switch (scalar) {
            case UCHAR -> any & 0xff;
            case INT -> (int) any;
            case UINT -> any & 0xffff_ffffL;
            default -> any;
        };
    }

    private double real() {
        return real(ValueType.Scalar.DOUBLE);
    }

    private double real(ValueType.Scalar scalar) {
        double any =
                switch (random.nextInt(6)) {
                    case 0 -> random.nextInt(-130, 130);
                    case 1 -> random.nextDouble();
                    case 2 -> Double.longBitsToDouble(random.nextLong());
                    case 3 -> one(List.of(-0.0, Double.POSITIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NaN));
                    default -> random.nextGaussian() * 100;
                };
        any = Double.isNaN(any) ? Double.NaN : any;
        return switch (scalar) {
            case HALF -> Float.float16ToFloat(Float.floatToFloat16((float) any));
            case FLOAT -> (float) any;
            default -> any;
        };
    }

    private Value.Dictionary dictionary(int depth) {
        Map<String, Value.Dictionary.Entry> entries = new LinkedHashMap<>();
        for (int i = random.nextInt(4); i > 0; i--) {
            boolean nested = depth > 0 && random.nextInt(3) == 0;
            // The binary format does not tell the role of a type, and tokens are kept apart from strings.
            String type = nested ? "dictionary" : one(List.of("string", "int", "double", "float3", "token[]", "bool"));
            boolean array = type.endsWith("[]");
            Value value =
                    nested ? dictionary(depth - 1) : value(array ? type.substring(0, type.length() - 2) : type, array);
            entries.put(one(List.of("a", "key " + i, "ns:key", "ä")) + i, new Value.Dictionary.Entry(type, value));
        }
        return new Value.Dictionary(entries);
    }

    private interface Item<T> {
        T make();
    }

    private <T> ListEdit<T> edit(Item<T> item) {
        if (random.nextBoolean()) {
            return ListEdit.explicit(items(item));
        }
        ListEdit<T> edit = ListEdit.<T>none().with(ListEdit.Operation.PREPEND, List.of(item.make()));
        for (ListEdit.Operation operation : ListEdit.Operation.values()) {
            if (operation != ListEdit.Operation.EXPLICIT && random.nextInt(3) == 0) {
                edit = edit.with(operation, items(item));
            }
        }
        return edit.isEmpty() ? ListEdit.prepend(List.of(item.make())) : edit;
    }

    private <T> List<T> items(Item<T> item) {
        List<T> items = new ArrayList<>();
        for (int i = random.nextInt(3); i > 0; i--) {
            items.add(item.make());
        }
        return items;
    }

    private Reference reference() {
        return switch (random.nextInt(3)) {
            case 0 -> Reference.internal(path());
            case 1 -> Reference.to("./lib/a.usda");
            default ->
                new Reference(
                        "b.usdc",
                        Optional.of(path()),
                        new LayerOffset(1, 0.5),
                        random.nextBoolean() ? dictionary(1) : Value.Dictionary.EMPTY);
        };
    }

    private SdfPath path() {
        return SdfPath.of(one(List.of("/A", "/A/Mast", "/Mast/Head_2/_9")));
    }

    private String text() {
        return one(List.of(
                "",
                "plain",
                "two\nlines",
                "\"quoted\" and 'single'",
                "back\\slash",
                "tab\there",
                "Größe 雪",
                "#not",
                "\u0001"));
    }

    private <T> T one(List<T> items) {
        return items.get(random.nextInt(items.size()));
    }
}
