package pantry.exchange.materialx;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.exchange.format.Companions;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Texture;

/**
 * Reads the materials of a MaterialX document: UsdPreviewSurface, standard_surface, gltf_pbr and open_pbr_surface, by
 * the inputs that they share with UsdPreviewSurface. Of a network only the image behind an input is taken.
 *
 * <p>Which input stands for which is after MaterialX's own translation graphs to UsdPreviewSurface, from memory.
 */
public final class MaterialXReader {
    private static final int DEEPEST = 64;
    private static final List<String> SURFACES =
            List.of("UsdPreviewSurface", "standard_surface", "gltf_pbr", "open_pbr_surface");

    private final Path file;
    private final FileGate gate;
    private final Map<String, Element> byName = new HashMap<>();
    private String prefix = "";

    private MaterialXReader(Path file, FileGate gate) {
        this.file = file;
        this.gate = gate;
    }

    /** @throws ExchangeException naming the line that is wrong, or saying that there is no material */
    public static Imported read(Path file, FileGate gate) {
        List<Material> materials = new MaterialXReader(file, gate).materials();
        if (materials.isEmpty()) {
            throw new ExchangeException(
                    file, "has no material: none of the surfaces " + String.join(", ", SURFACES) + " is in it");
        }
        String name = Names.stem(file.getFileName().toString());
        return new Imported(
                file,
                Samples.balls(name, materials),
                Optional.of(1.0),
                Optional.of(Axis.Y),
                List.of(),
                Imported.Holds.MATERIALS);
    }

    private Element document() {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultNSInstance();
        try (InputStream in = Files.newInputStream(file)) {
            // Entities could read other files, or grow without end: documents that declare any are refused.
            factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
            factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            factory.setXIncludeAware(false);
            var builder = factory.newDocumentBuilder();
            builder.setErrorHandler(null);
            return builder.parse(in).getDocumentElement();
        } catch (SAXParseException e) {
            throw new ExchangeException(
                    file, "line " + e.getLineNumber(), "is no MaterialX that can be read: " + e.getMessage());
        } catch (SAXException | ParserConfigurationException | IOException e) {
            throw new ExchangeException(file, "cannot be read: " + e.getMessage(), e);
        }
    }

    private List<Material> materials() {
        Element root = document();
        if (!root.getTagName().equals("materialx")) {
            throw new ExchangeException(file, "is no MaterialX: its root is <" + root.getTagName() + ">");
        }
        prefix = root.getAttribute("fileprefix");
        List<Element> all = new ArrayList<>();
        collect(root, "", all, 0);
        List<Material> materials = new ArrayList<>();
        List<Element> used = new ArrayList<>();
        for (Element element : all) {
            if (element.getTagName().equals("surfacematerial")) {
                Optional<Element> surface = input(element, "surfaceshader").flatMap(this::source);
                surface.filter(s -> SURFACES.contains(s.getTagName())).ifPresent(s -> {
                    used.add(s);
                    materials.add(material(element.getAttribute("name"), s));
                });
            }
        }
        for (Element element : all) {
            if (SURFACES.contains(element.getTagName()) && !used.contains(element)) {
                materials.add(material(element.getAttribute("name"), element));
            }
        }
        return materials;
    }

    private void collect(Element parent, String graph, List<Element> all, int depth) {
        if (depth > DEEPEST) {
            throw new ExchangeException(file, "is nested more than " + DEEPEST + " deep");
        }
        for (Element child : children(parent)) {
            if (!child.getTagName().equals("input")) {
                all.add(child);
                byName.putIfAbsent(graph + child.getAttribute("name"), child);
                String inner =
                        child.getTagName().equals("nodegraph") ? graph + child.getAttribute("name") + "/" : graph;
                collect(child, inner, all, depth + 1);
            }
        }
    }

    private static List<Element> children(Element parent) {
        List<Element> children = new ArrayList<>();
        for (Node node = parent.getFirstChild(); node != null; node = node.getNextSibling()) {
            if (node instanceof Element element) {
                children.add(element);
            }
        }
        return children;
    }

    private static Optional<Element> input(Element node, String name) {
        return children(node).stream()
                .filter(child -> child.getAttribute("name").equals(name))
                .findFirst();
    }

    /** The node that an input is connected to. */
    private Optional<Element> source(Element input) {
        String graph = input.getAttribute("nodegraph");
        String node = input.getAttribute("nodename");
        if (!graph.isEmpty()) {
            String output = input.getAttribute("output");
            return Optional.ofNullable(byName.get(graph)).flatMap(found -> children(found).stream()
                    .filter(child -> child.getTagName().equals("output")
                            && (output.isEmpty() || child.getAttribute("name").equals(output)))
                    .findFirst()
                    .flatMap(out -> Optional.ofNullable(byName.get(graph + "/" + out.getAttribute("nodename")))));
        }
        if (node.isEmpty()) {
            return Optional.empty();
        }
        String scope = scope(input);
        return Optional.ofNullable(byName.getOrDefault(scope + node, byName.get(node)));
    }

    private static String scope(Element input) {
        StringBuilder scope = new StringBuilder();
        for (Node at = input.getParentNode(); at != null; at = at.getParentNode()) {
            if (at instanceof Element element && element.getTagName().equals("nodegraph")) {
                scope.insert(0, element.getAttribute("name") + "/");
            }
        }
        return scope.toString();
    }

    private Material material(String name, Element s) {
        String kind = s.getTagName();
        boolean preview = kind.equals("UsdPreviewSurface");
        boolean open = kind.equals("open_pbr_surface");
        float weight = kind.equals("standard_surface") ? number(s, "base", 1) : open ? number(s, "base_weight", 1) : 1;
        Colour base = colour(s, preview ? "diffuseColor" : "base_color", new Colour(0.8f, 0.8f, 0.8f));
        float strength =
                preview || kind.equals("gltf_pbr") ? 1 : number(s, open ? "emission_luminance" : "emission", 0);
        Colour emissive = colour(
                s,
                preview ? "emissiveColor" : kind.equals("gltf_pbr") ? "emissive" : "emission_color",
                preview || kind.equals("gltf_pbr") ? Colour.BLACK : Colour.WHITE);
        String coat = open ? "coat_weight" : kind.equals("standard_surface") ? "coat" : "clearcoat";
        String opacity = kind.equals("gltf_pbr") ? "alpha" : open ? "geometry_opacity" : "opacity";
        String metallic = kind.equals("standard_surface") ? "metalness" : open ? "base_metalness" : "metallic";
        String roughness = kind.equals("standard_surface") || open ? "specular_roughness" : "roughness";
        Material made = new Material(
                name,
                new Colour(base.r() * weight, base.g() * weight, base.b() * weight),
                Math.clamp(number(s, opacity, 1), 0f, 1f),
                Math.clamp(number(s, metallic, 0), 0f, 1f),
                Math.clamp(number(s, roughness, preview ? 0.5f : 0.3f), 0f, 1f),
                new Colour(emissive.r() * strength, emissive.g() * strength, emissive.b() * strength),
                new Material.Finish(0, Math.clamp(number(s, coat, 0), 0f, 1f), 0.01f, 1.5f, false),
                Map.of());
        made = image(made, s, preview ? "diffuseColor" : "base_color", Material.Slot.BASE);
        made = image(made, s, metallic, Material.Slot.METALLIC);
        made = image(made, s, roughness, Material.Slot.ROUGHNESS);
        return image(made, s, open ? "geometry_normal" : "normal", Material.Slot.NORMAL);
    }

    private Material image(Material material, Element surface, String name, Material.Slot slot) {
        Optional<String> named = input(surface, name).flatMap(this::source).flatMap(node -> imageBehind(node, 0));
        if (named.isEmpty()) {
            return material;
        }
        Texture texture = Companions.texture(file, named.get(), Texture.Sampling.USUAL, gate);
        // Connected inputs have no value of their own: what stands there is the standard's default.
        Material plain = new Material(
                material.name(),
                slot == Material.Slot.BASE ? Colour.WHITE : material.base(),
                material.opacity(),
                slot == Material.Slot.METALLIC ? 1 : material.metallic(),
                slot == Material.Slot.ROUGHNESS ? 1 : material.roughness(),
                material.emissive(),
                material.finish(),
                material.textures());
        return plain.with(slot, texture);
    }

    /** The image that a node shows, or that one before it shows. */
    private Optional<String> imageBehind(Element node, int depth) {
        if (depth > DEEPEST) {
            return Optional.empty();
        }
        Optional<String> own =
                input(node, "file").map(input -> input.getAttribute("value")).filter(value -> !value.isBlank());
        if (own.isPresent()) {
            return own.map(value -> prefix + value);
        }
        for (Element input : children(node)) {
            Optional<String> found = source(input).flatMap(before -> imageBehind(before, depth + 1));
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private static float number(Element node, String name, float otherwise) {
        float[] numbers = numbers(node, name);
        return numbers == null || numbers.length == 0 ? otherwise : numbers[0];
    }

    private static Colour colour(Element node, String name, Colour otherwise) {
        float[] numbers = numbers(node, name);
        return numbers == null || numbers.length < 3 ? otherwise : new Colour(numbers[0], numbers[1], numbers[2]);
    }

    private static float @Nullable [] numbers(Element node, String name) {
        String value =
                input(node, name).map(input -> input.getAttribute("value")).orElse("");
        if (value.isBlank()) {
            return null;
        }
        String[] words = value.split(",");
        float[] numbers = new float[words.length];
        for (int i = 0; i < words.length; i++) {
            try {
                numbers[i] = Float.parseFloat(words[i].strip());
            } catch (NumberFormatException e) {
                return null;
            }
            if (!Float.isFinite(numbers[i])) {
                return null;
            }
        }
        return numbers;
    }
}
