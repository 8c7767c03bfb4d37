package pantry.exchange;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.Assets;
import pantry.usd.schema.Primvar;
import pantry.usd.schema.Values;

/** Reads what prims are made of: UsdPreviewSurface materials, and the colours of those that have none. */
final class UsdMaterialReader {
    private final Stage stage;
    private final List<String> problems;
    private final Map<SdfPath, Material> materials = new HashMap<>();
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
            known = bound.map(this::material).orElse(Material.PLAIN);
            materials.put(target, known);
        }
        return known;
    }

    /** A prim's own display colour; one that varies over the surface is shown by its mean. */
    Optional<Colour> displayColour(Prim prim) {
        if (prim.attribute("primvars:displayColor").isEmpty()) {
            return Optional.empty();
        }
        Optional<float[]> values;
        try {
            values = Primvar.find(prim, "displayColor").flatMap(primvar -> primvar.floats(3));
        } catch (UsdException e) {
            problems.add(e.getMessage());
            return Optional.empty();
        }
        return values.filter(colours -> colours.length > 0).map(UsdMaterialReader::mean);
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
        return colours.computeIfAbsent(
                colour,
                c -> Material.plain("Display colour", c, Material.PLAIN.metallic(), Material.PLAIN.roughness()));
    }

    private Material material(Prim prim) {
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
                (float) Values.number(shader, "inputs:opacity", 1),
                (float) Values.number(shader, "inputs:metallic", 0),
                (float) Values.number(shader, "inputs:roughness", 0.5),
                colour(shader, "inputs:emissiveColor", Colour.BLACK),
                Map.of());
        for (Material.Slot slot : Material.Slot.values()) {
            Optional<Prim> image = connected(shader, "inputs:" + slot.input());
            if (image.isPresent()) {
                Optional<Attribute> file = image.get().attribute("inputs:file");
                if (file.isPresent() && file.get().value().orElse(null) instanceof Value.Asset(String written)) {
                    Optional<Path> found = file.get().asset().flatMap(Assets::onDisk);
                    material = material.with(slot, new Texture(written, found));
                }
            }
        }
        return material;
    }

    private Optional<Prim> connected(Prim prim, String attribute) {
        return prim.attribute(attribute).map(Attribute::connections).orElse(List.of()).stream()
                .findFirst()
                .flatMap(path -> stage.prim(path.prim()));
    }

    private static Colour colour(Prim prim, String attribute, Colour otherwise) {
        return prim.value(attribute).orElse(null) instanceof Value.Tuple(double[] c) && c.length == 3
                ? new Colour((float) c[0], (float) c[1], (float) c[2])
                : otherwise;
    }
}
