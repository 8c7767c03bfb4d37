package pantry.exchange.usd;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import pantry.base.ImageTiles;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.SampleNodes;
import pantry.mesh.Channel;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackager;
import pantry.usd.schema.Xforms;

/**
 * Writes a model as USD prims: objects, meshes, their skeleton, and materials as UsdPreviewSurface in a scope of their own.
 */
public final class UsdModelWriter {
    /** The variant set that holds the looks that a file offers. */
    public static final String LOOK_SET = "look";

    private static final String USUAL_LOOK = "as_read";

    private final SdfPath root;
    private final Map<Material, String> materialNames = new HashMap<>();
    private final List<Dressed> dressed = new ArrayList<>();
    private final Set<String> takenNames = new HashSet<>();

    /** The scope with the meshes that several objects share. */
    private static final String SHAPES = "Shapes";

    private final Split split;
    private final Set<Mesh> shared;
    private final Map<Mesh, String> shapes = new IdentityHashMap<>();
    private final PrimSpec shapeScope = new PrimSpec(Specifier.CLASS, "Scope", SHAPES);

    private UsdModelWriter(Model model, String rootName, Split split) {
        this.split = split;
        this.shared = split == Split.SHARED || split == Split.AS_IS ? shared(model) : Set.of();
        this.root = SdfPath.ROOT.child(rootName);
        Map<Material, String> equal = new HashMap<>();
        for (Material material : model.materials()) {
            if (material.isNone() || material.isDisplayColour()) {
                continue;
            }
            equal.computeIfAbsent(material, m -> {
                String name = Names.free(Names.identifier(m.name()), takenNames::contains);
                takenNames.add(name);
                return name;
            });
        }
        for (Material material : List.copyOf(equal.keySet())) {
            materialNames.put(material, equal.get(material));
        }
    }

    private Layer geometry(Model model, Path file) {
        Layer layer = Layer.inMetres(file, root.name());
        PrimSpec prim = layer.root().define("Xform", root.name());
        addNodes(prim, root, model.roots(), Matrix4.IDENTITY);
        if (!shapeScope.children().isEmpty()) {
            prim.add(shapeScope);
        }
        // A motion by itself is referenced beside the skeleton of a figure, where nothing of both may have one name.
        boolean alone =
                !model.roots().isEmpty() && model.roots().stream().allMatch(node -> SampleNodes.isSample(node.name()));
        String bones = alone ? root.name() + "_bones" : UsdSkelWriter.SKELETON;
        model.extras().skeleton().ifPresent(skeleton -> UsdSkelWriter.write(layer, prim, root, skeleton, bones));
        return layer;
    }

    /**
     * Writes a model to one layer of any format, materials and all; images stand beside it, or are packed into a package.
     *
     * @throws pantry.usd.UsdException where the file cannot be written
     */
    public static void write(Model model, Path file) {
        write(model, file, new ExportNotes(Optional.empty()), false);
    }

    /**
     * As above; what is missing or converted is noted.
     *
     * @param samples whether its surfaces only show what has none, and are guides
     */
    public static void write(Model model, Path file, ExportNotes notes, boolean samples) {
        String name = Names.identifier(model.name());
        Path folder = Optional.ofNullable(file.toAbsolutePath().getParent()).orElseThrow();
        boolean packed = Names.ending(file.getFileName().toString()).equals("usdz");
        ExportImages images = new ExportImages(file, notes);
        Model found = withoutMissing(model, notes);
        Layer layer = layer(
                found,
                name,
                file,
                texture -> packed
                        ? packed(texture, folder)
                        : images.path(texture).map(path -> "./" + path).orElse(""));
        if (samples) {
            layer.prim(SdfPath.ROOT.child(name)).ifPresent(UsdModelWriter::asGuides);
        }
        if (packed) {
            UsdPackager.write(layer, LayerFiles::read, file, Optional.of(notes::left));
        } else {
            LayerFiles.write(layer, file);
        }
    }

    /** Where a packager finds an image, or its tiles; nothing where it is missing. */
    private static String packed(Texture texture, Path folder) {
        String path =
                texture.file().map(file -> AssetPaths.relative(folder, file)).orElse("");
        return texture.isTiled()
                ? path.replace(
                        String.valueOf(texture.tiles().keySet().iterator().next()), ImageTiles.NUMBER)
                : path;
    }

    /** Has what only shows what has no surface be drawn as a guide, which scenes do not show. @param root what it hangs on */
    public static void asGuides(PrimSpec root) {
        root.children().stream()
                .filter(child -> SampleNodes.isSample(child.name()))
                .forEach(child ->
                        child.set("token", "purpose", new Value.Token("guide")).setUniform(true));
    }

    /** Nothing refers to images that are not there. */
    private static Model withoutMissing(Model model, ExportNotes notes) {
        return model.withMaterials(material -> {
            Map<Material.Slot, Texture> there = new EnumMap<>(Material.Slot.class);
            material.textures().forEach((slot, texture) -> {
                if (texture.found()) {
                    there.put(slot, texture);
                } else {
                    notes.missing(texture);
                }
            });
            // A network of which an image is missing is no longer what it was.
            boolean whole = material.network().stream()
                    .flatMap(network -> network.textures().stream())
                    .allMatch(Texture::found);
            if (!whole) {
                return material.withoutNetwork().withOnly(there);
            }
            return there.size() == material.textures().size() ? material : material.withOnly(there);
        });
    }

    /**
     * A model as one layer: its objects and meshes below a root prim, bound to materials in a scope beside them.
     *
     * @param file where the layer is to live
     * @param asset the asset path of a texture, relative to the layer; textures that are not found are asked for too
     */
    public static Layer layer(Model model, String rootName, Path file, Function<Texture, String> asset) {
        return layer(model, rootName, file, Links.ofImages(asset), Split.MESHES);
    }

    /** How an object of several materials is written. */
    public enum Split {
        /** A mesh for each material. */
        MESHES,
        /** A mesh for each material; what several objects have in common stands once, and they are its instances. */
        SHARED,
        /** One mesh, and for each material the subset of its faces. */
        SUBSETS,
        /** One mesh with subsets, but what several objects have in common stands once. */
        AS_IS
    }

    /** As above, with a choice of how objects of several materials are written, and of what is referenced. */
    public static Layer layer(Model model, String rootName, Path file, Links links, Split split) {
        Model told = Tints.baked(model);
        UsdModelWriter writer = new UsdModelWriter(told, rootName, split);
        Layer layer = writer.geometry(told, file);
        PrimSpec materials = writer.materials(links);
        layer.prim(writer.root).ifPresent(prim -> {
            if (!materials.children().isEmpty()) {
                prim.add(materials);
            }
            writer.addLooks(prim, told);
            FixtureWriter.write(prim, model.extras().fixtures(), links);
            UsdCustomValues.write(prim, model.extras().custom());
        });
        return layer;
    }

    /** A graph of a network as a layer of its own, whose default prim it is. */
    public static Layer part(ShaderNetwork.Graph graph, String rootName, Path file, Links links) {
        Layer layer = Layer.inMetres(file, rootName);
        UsdNetworkWriter.write(layer.root().define("NodeGraph", rootName), SdfPath.ROOT.child(rootName), graph, links);
        return layer;
    }

    /** A surface that is made of something else in some looks. */
    private record Dressed(SdfPath surface, Model.Part part) {}

    /**
     * A variant set with the looks that the file offers. What a surface is made of is said in the variants only, since
     * what is said outside of them is stronger.
     */
    private void addLooks(PrimSpec prim, Model model) {
        if (dressed.isEmpty()) {
            return;
        }
        Map<String, String> variants = new LinkedHashMap<>();
        Optional<String> usual = model.looks().stream().filter(this::isUsual).findFirst();
        if (usual.isEmpty()) {
            variants.put("", USUAL_LOOK);
        }
        model.looks().forEach(look -> variants.put(look, Names.free(Names.identifier(look), variants::containsValue)));
        prim.setVariantSetNames(LOOK_SET);
        prim.select(LOOK_SET, usual.map(variants::get).orElse(USUAL_LOOK));
        variants.forEach((look, variant) -> {
            PrimSpec contents = prim.variant(LOOK_SET, variant).contents();
            for (Dressed each : dressed) {
                PrimSpec over = contents;
                for (String name :
                        each.surface().names().subList(1, each.surface().depth())) {
                    PrimSpec parent = over;
                    over = parent.child(name).orElseGet(() -> parent.add(new PrimSpec(Specifier.OVER, "", name)));
                }
                bind(over, each.part().looks().getOrDefault(look, each.part().material()));
            }
        });
    }

    /** Whether a look is the one that things have where none is chosen. */
    private boolean isUsual(String look) {
        return dressed.stream().map(Dressed::part).allMatch(part -> part.looks()
                .getOrDefault(look, part.material())
                .equals(part.material()));
    }

    private void addNodes(PrimSpec parent, SdfPath here, List<Model.Node> nodes, Matrix4 above) {
        for (Model.Node node : nodes) {
            Matrix4 world = node.local().times(above);
            String name = Names.free(
                    Names.identifier(node.name()),
                    taken -> taken.equals("Materials")
                            || taken.equals(SHAPES)
                            || taken.equals(UsdSkelWriter.SKELETON)
                            || parent.child(taken).isPresent());
            boolean whole = (split == Split.SUBSETS || split == Split.AS_IS)
                    && node.parts().size() > 1
                    && node.children().isEmpty()
                    && node.parts().stream()
                            .noneMatch(part -> shared.contains(part.mesh())
                                    || part.strands().isPresent());
            boolean single = node.parts().size() == 1 && node.children().isEmpty() || whole;
            String type = whole ? "Mesh" : single ? type(node.parts().getFirst()) : "Xform";
            PrimSpec prim = parent.define(type, name);
            if (!name.equals(node.name()) && !node.name().isBlank()) {
                prim.metadata().put("displayName", new Value.Text(node.name()));
            }
            Xforms.setMatrix(prim, node.local());
            if (whole) {
                writeSubsets(prim, here.child(name), node.parts(), world);
            } else if (single) {
                writeMesh(prim, here.child(name), node.parts().getFirst(), world);
            } else {
                for (Model.Part part : node.parts()) {
                    String partName =
                            Names.free(Names.identifier(part.material().title()), taken -> prim.child(taken)
                                    .isPresent());
                    writeMesh(
                            prim.define(type(part), partName), here.child(name).child(partName), part, world);
                }
                addNodes(prim, here.child(name), node.children(), world);
            }
        }
    }

    private void writeSubsets(PrimSpec prim, SdfPath path, List<Model.Part> parts, Matrix4 world) {
        Mesh whole = Merging.of(parts.stream().map(Model.Part::mesh).toList());
        writeSurface(prim, whole);
        UsdSkelWriter.bind(prim, path, whole, world);
        int face = 0;
        for (Model.Part part : parts) {
            String name = Names.free(Names.identifier(part.material().title()), taken -> prim.child(taken)
                    .isPresent());
            PrimSpec subset = prim.define("GeomSubset", name);
            int from = face;
            int[] faces = new int[part.mesh().faceCount()];
            java.util.Arrays.setAll(faces, i -> from + i);
            face += faces.length;
            subset.set("token", "elementType", new Value.Token("face")).setUniform(true);
            subset.set("token", "familyName", new Value.Token("materialBind")).setUniform(true);
            subset.set("int[]", "indices", new Value.Ints(faces, 1));
            bindAll(subset, path.child(name), part);
        }
    }

    private static String type(Model.Part part) {
        return part.strands()
                .map(strands -> strands.areLoose() ? UsdLines.POINTS : UsdLines.CURVES)
                .orElse("Mesh");
    }

    private void writeMesh(PrimSpec prim, SdfPath path, Model.Part part, Matrix4 world) {
        if (part.strands().isPresent()) {
            Box3 box = part.strands().get().bounds();
            prim.set("float3[]", "extent", new Value.Floats(extent(box), 3));
            UsdLines.write(prim, part.strands().get());
        } else if (shared.contains(part.mesh())) {
            SdfPath shape = root.child(SHAPES).child(shapes.computeIfAbsent(part.mesh(), mesh -> {
                String name =
                        Names.free(prim.name(), taken -> shapeScope.child(taken).isPresent());
                writeSurface(shapeScope.define("Xform", name).define("Mesh", "Shape"), mesh);
                return name;
            }));
            prim.setTypeName("Xform");
            prim.setReferences(Reference.internal(shape));
            prim.metadata().put("instanceable", new Value.Bool(true));
        } else {
            writeSurface(prim, part.mesh());
            UsdSkelWriter.bind(prim, path, part.mesh(), world);
        }
        bindAll(prim, path, part);
    }

    /** The meshes that stand in more than one place. */
    private static Set<Mesh> shared(Model model) {
        Set<Mesh> once = Collections.newSetFromMap(new IdentityHashMap<>());
        Set<Mesh> more = Collections.newSetFromMap(new IdentityHashMap<>());
        model.visit((owner, part, world) -> {
            // What hangs on joints is bound where it stands, and cannot be shared with what stands elsewhere.
            if (part.strands().isEmpty()
                    && Skin.of(part.mesh()).isEmpty()
                    && BlendShapes.of(part.mesh()).isEmpty()
                    && !once.add(part.mesh())) {
                more.add(part.mesh());
            }
        });
        return more;
    }

    /** Writes a mesh to a prim spec of that type. */
    public static void writeSurface(PrimSpec prim, Mesh mesh) {
        prim.set("float3[]", "extent", new Value.Floats(extent(mesh.bounds()), 3));
        prim.set("int[]", "faceVertexCounts", new Value.Ints(mesh.faceSizes(), 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(mesh.corners(), 1));
        prim.set("point3f[]", "points", new Value.Floats(mesh.points(), 3));
        mesh.normals().ifPresent(normals -> channel(prim, "normal3f[]", "normals", normals));
        mesh.uvs().ifPresent(uvs -> channel(prim, "texCoord2f[]", "primvars:st", uvs));
        prim.set("token", "subdivisionScheme", new Value.Token("none")).setUniform(true);
        if (mesh.doubleSided()) {
            prim.set("bool", "doubleSided", new Value.Bool(true)).setUniform(true);
        }
        if (mesh.leftHanded()) {
            prim.set("token", "orientation", new Value.Token("leftHanded")).setUniform(true);
        }
        mesh.primvars().forEach((name, extra) -> {
            if (!Skin.isChannel(name) && !BlendShapes.isChannel(name)) {
                channel(prim, primvarType(name, extra.width()), "primvars:" + name, extra);
            }
        });
        UsdSkelWriter.skin(prim, mesh.primvars());
    }

    /** Writes which joints the points of a mesh hang on, and how much, to a prim of that type. */
    public static void writeSkin(PrimSpec prim, Skin skin) {
        UsdSkelWriter.skin(prim, skin.channels());
    }

    /** Writes what a mesh can be moved towards to a prim of that type. */
    public static void writeShape(PrimSpec prim, BlendShapes.Shape shape) {
        UsdSkelWriter.shape(prim, shape);
    }

    /** A box as {@code extent} has it: the least corner, then the greatest. */
    public static float[] extent(Box3 box) {
        float[] extent = new float[6];
        for (int axis = 0; axis < 3; axis++) {
            extent[axis] = (float) box.min().get(axis);
            extent[3 + axis] = (float) box.max().get(axis);
        }
        return extent;
    }

    private void bindAll(PrimSpec prim, SdfPath path, Model.Part part) {
        if (part.looks().isEmpty() && !materialNames.containsKey(part.material())) {
            if (part.material().isDisplayColour()) {
                Colour colour = part.material().base();
                Channel one = new Channel(new float[] {colour.r(), colour.g(), colour.b()}, 3, Channel.Per.MESH);
                channel(prim, "color3f[]", "primvars:" + Mesh.COLOUR, one);
            }
            return;
        }
        prim.applyApiSchema("MaterialBindingAPI", true);
        if (part.looks().isEmpty()) {
            bind(prim, part.material());
        } else {
            dressed.add(new Dressed(path, part));
        }
    }

    private void bind(PrimSpec prim, Material material) {
        if (materialNames.containsKey(material)) {
            prim.relate("material:binding", root.child("Materials").child(materialNames.get(material)));
        }
    }

    private static String primvarType(String name, int width) {
        return switch (width) {
            case 1 -> "float[]";
            case 2 -> "texCoord2f[]";
            case 3 -> name.equals(Mesh.COLOUR) ? "color3f[]" : "float3[]";
            default -> "float4[]";
        };
    }

    private static void channel(PrimSpec prim, String type, String name, Channel channel) {
        AttributeSpec attribute = prim.set(type, name, new Value.Floats(channel.data(), channel.width()));
        attribute.metadata().put("interpolation", new Value.Token(channel.per().interpolation()));
    }

    private PrimSpec materials(Links links) {
        PrimSpec scope = new PrimSpec(Specifier.DEF, "Scope", "Materials");
        materialNames.entrySet().stream()
                .sorted(Map.Entry.comparingByValue())
                .filter(entry -> scope.child(entry.getValue()).isEmpty())
                .forEach(entry -> scope.add(UsdMaterialWriter.prim(
                        entry.getKey(), root.child("Materials").child(entry.getValue()), links)));
        return scope;
    }
}
