package pantry.exchange.usd;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Texture;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Primvar;
import pantry.usd.schema.Values;

/** Reads what prims are made of: UsdPreviewSurface materials, and the colours of those that have none. */
final class UsdMaterialReader {
    /** What is drawn with colours of its own, point by point. */
    private static final Set<String> HAVING_OWN = Set.of("Mesh", UsdLines.POINTS, UsdLines.CURVES);

    private final Stage stage;
    private final List<String> problems;
    private final Map<SdfPath, Material> materials = new HashMap<>();
    /** Prims elsewhere that materials are read of. */
    private final Map<SdfPath, Set<SdfPath>> sources = new HashMap<>();

    private Set<SdfPath> visited = new HashSet<>();
    private final Map<Colour, Material> colours = new HashMap<>();

    /** @param problems is told what cannot be read */
    UsdMaterialReader(Stage stage, List<String> problems) {
        this.stage = stage;
        this.problems = problems;
    }

    /** The material at a path that a prim is bound to; plain where it is not there. */
    Material bound(Prim prim, SdfPath target) {
        Material known = materials.get(target);
        if (known == null) {
            Optional<Prim> bound = stage.prim(target);
            if (bound.isEmpty()) {
                problems.add("<" + prim.path() + "> is bound to a material that is not there: <" + target + ">");
            }
            visited = new HashSet<>();
            known = bound.map(this::material).orElse(Material.PLAIN);
            materials.put(target, known);
            visited.removeIf(path -> path.startsWith(target));
            sources.put(target, visited);
        }
        return known;
    }

    /** The prims beside a material, and not below it, that it was read of. */
    Set<SdfPath> sources(SdfPath material) {
        return sources.getOrDefault(material, Set.of());
    }

    /**
     * A prim's own display colour. Of one that varies over a mesh, which has it itself, white; over another surface it
     * is shown by its mean.
     */
    Optional<Colour> displayColour(Prim prim) {
        if (prim.attribute("primvars:displayColor").isEmpty()) {
            return Optional.empty();
        }
        try {
            Optional<Primvar> primvar = Primvar.find(prim, Mesh.COLOUR);
            Optional<float[]> colours =
                    primvar.flatMap(found -> found.floats(3)).filter(c -> c.length >= 3);
            boolean own = HAVING_OWN.contains(prim.typeName())
                    && primvar.filter(found -> !found.isConstant()).isPresent();
            return colours.map(c -> own ? Colour.WHITE : mean(c));
        } catch (UsdException e) {
            problems.add(e.getMessage());
            return Optional.empty();
        }
    }

    private static Colour mean(float[] colours) {
        double[] sum = new double[3];
        for (int i = 0; i < colours.length; i++) {
            sum[i % 3] += colours[i];
        }
        int count = colours.length / 3;
        return new Colour((float) (sum[0] / count), (float) (sum[1] / count), (float) (sum[2] / count));
    }

    /** The material of that colour. */
    Material coloured(Colour colour) {
        return colours.computeIfAbsent(colour, Material::displayColour);
    }

    private Material material(Prim prim) {
        Material plain = previewed(prim);
        return new UsdNetworkReader(stage, visited::add)
                .read(prim)
                .map(plain::with)
                .orElse(plain);
    }

    private Material previewed(Prim prim) {
        String name = prim.text("displayName").orElse(prim.name());
        Optional<Prim> surface = connected(prim, "outputs:surface");
        if (surface.isEmpty()) {
            return new Material(
                    name,
                    Material.PLAIN.base(),
                    1,
                    Material.PLAIN.metallic(),
                    Material.PLAIN.roughness(),
                    Colour.BLACK,
                    Map.of());
        }
        Prim shader = surface.get();
        Material material = new Material(
                name,
                colour(shader, "inputs:diffuseColor", new Colour(0.18f, 0.18f, 0.18f)),
                number(shader, "inputs:opacity", 1),
                number(shader, "inputs:metallic", 0),
                number(shader, "inputs:roughness", 0.5),
                colour(shader, "inputs:emissiveColor", Colour.BLACK),
                new Material.Finish(
                        number(shader, "inputs:opacityThreshold", 0),
                        number(shader, "inputs:clearcoat", 0),
                        number(shader, "inputs:clearcoatRoughness", 0.01),
                        number(shader, "inputs:ior", 1.5),
                        false),
                Map.of());
        if (connected(shader, "inputs:diffuseColor")
                .flatMap(UsdMaterialReader::varname)
                .filter(Mesh.COLOUR::equals)
                .isPresent()) {
            material = material.withBase(Colour.WHITE).onColoured();
        }
        for (Material.Slot slot : Material.Slot.values()) {
            String output = output(shader, slot.input());
            Optional<Prim> image = connected(shader, "inputs:" + slot.input());
            Optional<Texture> texture = image.flatMap(each -> texture(each, slot, output));
            if (texture.isPresent()) {
                material = scaled(material, slot, image.get(), output).with(slot, texture.get());
            }
        }
        return UsdSpecular.isMeant(shader)
                ? UsdSpecular.metallic(
                        material,
                        colour(shader, "inputs:specularColor", Colour.BLACK),
                        connected(shader, "inputs:specularColor")
                                .flatMap(image -> texture(image, Material.Slot.BASE, output(shader, "specularColor"))))
                : material;
    }

    /**
     * What a shader of an image shows.
     *
     * @param slot as whose images it is read
     * @param output that is connected
     */
    private Optional<Texture> texture(Prim image, Material.Slot slot, String output) {
        return image.attribute("inputs:file")
                .flatMap(file -> file.value().orElse(null) instanceof Value.Asset(String written)
                        ? Optional.of(Texture.of(written, sampling(slot, image, output), file::image))
                        : Optional.empty());
    }

    /** The output of an image that an input is connected to. */
    private static String output(Prim shader, String input) {
        String name = shader.attribute("inputs:" + input).map(Attribute::connections).orElse(List.of()).stream()
                .findFirst()
                .map(SdfPath::name)
                .orElse("");
        return name.startsWith("outputs:") ? name.substring("outputs:".length()) : name;
    }

    /** An image stands in for the plain value; what it is multiplied by is the plain value then. */
    private static Material scaled(Material m, Material.Slot slot, Prim image, String output) {
        double[] by = image.value("inputs:scale").orElse(null) instanceof Value.Tuple(double[] c) && c.length == 4
                ? c
                : new double[] {1, 1, 1, 1};
        Colour colour = new Colour((float) by[0], (float) by[1], (float) by[2]);
        float number = (float) by[Math.max(0, "rgba".indexOf(output))];
        return new Material(
                m.name(),
                slot == Material.Slot.BASE ? colour : m.base(),
                slot == Material.Slot.OPACITY ? number : m.opacity(),
                slot == Material.Slot.METALLIC ? number : m.metallic(),
                slot == Material.Slot.ROUGHNESS ? number : m.roughness(),
                slot == Material.Slot.EMISSIVE ? colour : m.emissive(),
                m.finish(),
                m.textures(),
                m.network());
    }

    private Texture.Sampling sampling(Material.Slot slot, Prim image, String output) {
        double strength = 1;
        if (image.value("inputs:scale").orElse(null) instanceof Value.Tuple(double[] scale) && scale.length == 4) {
            strength = switch (slot) {
                case NORMAL -> scale[0] / 2;
                case OCCLUSION -> scale[0];
                case DISPLACEMENT -> scale[Math.max(0, "rgba".indexOf(output))];
                default -> 1;
            };
        }
        if (slot == Material.Slot.DISPLACEMENT) {
            // Lengths of a stage are in its unit.
            strength *= stage.rootLayer().number("metersPerUnit").orElse(0.01);
        }
        Optional<Prim> source = connected(image, "inputs:st");
        float[] scale = {1, 1};
        float[] move = {0, 0};
        float turn = 0;
        if (source.isPresent()
                && Values.token(source.get(), "info:id")
                        .filter("UsdTransform2d"::equals)
                        .isPresent()) {
            scale = pair(source.get(), "inputs:scale", 1);
            move = pair(source.get(), "inputs:translation", 0);
            turn = number(source.get(), "inputs:rotation", 0);
            source = connected(source.get(), "inputs:in");
        }
        String set = source.flatMap(UsdMaterialReader::varname).orElse("");
        Texture.Placement placement = new Texture.Placement(
                set.matches("st[1-9]") ? set.charAt(2) - '0' : 0, scale[0], scale[1], turn, move[0], move[1]);
        return Texture.Sampling.placed(placement)
                .with(
                        Texture.Wrap.of(Values.token(image, "inputs:wrapS").orElse("repeat")),
                        Texture.Wrap.of(Values.token(image, "inputs:wrapT").orElse("repeat")))
                .with(filter(image))
                .with(Texture.Channel.of(output, slot))
                .withStrength((float) strength);
    }

    /** What glTF's samplers say, as it is kept in a dictionary of the image's shader. */
    private static Texture.Filter filter(Prim image) {
        if (image.metadata("customData").orElse(null) instanceof Value.Dictionary(var entries)
                && entries.get(UsdMaterialWriter.SAMPLER) instanceof Value.Dictionary.Entry entry
                && entry.value() instanceof Value.Dictionary(var sampler)) {
            return new Texture.Filter(
                    number(sampler, UsdMaterialWriter.MAGNIFIED), number(sampler, UsdMaterialWriter.REDUCED));
        }
        return Texture.Filter.UNSAID;
    }

    private static int number(Map<String, Value.Dictionary.Entry> entries, String name) {
        Value.Dictionary.Entry entry = entries.get(name);
        return entry != null && entry.value() instanceof Value.Int(long number) ? (int) number : 0;
    }

    /** The primvar that a reader reads. */
    private static Optional<String> varname(Prim reader) {
        return reader.value("inputs:varname").map(value -> switch (value) {
            case Value.Text(String text) -> text;
            case Value.Token(String token) -> token;
            default -> "";
        });
    }

    private static float number(Prim prim, String attribute, double otherwise) {
        return (float) Values.number(prim, attribute, otherwise);
    }

    private static float[] pair(Prim prim, String attribute, float otherwise) {
        return prim.value(attribute).orElse(null) instanceof Value.Tuple(double[] c) && c.length == 2
                ? new float[] {(float) c[0], (float) c[1]}
                : new float[] {otherwise, otherwise};
    }

    private Optional<Prim> connected(Prim prim, String attribute) {
        return prim.attribute(attribute).map(Attribute::connections).orElse(List.of()).stream()
                .findFirst()
                .flatMap(path -> {
                    visited.add(path.prim());
                    return stage.prim(path.prim());
                });
    }

    static Colour colour(Prim prim, String attribute, Colour otherwise) {
        return prim.value(attribute).orElse(null) instanceof Value.Tuple(double[] c) && c.length == 3
                ? new Colour((float) c[0], (float) c[1], (float) c[2])
                : otherwise;
    }
}
