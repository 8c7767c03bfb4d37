package pantry.usd.compose;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.SdfPath;
import pantry.usd.VariantSpec;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/**
 * A small scene with one feature or trap, in a folder of its own: {@code main.usda} and what it brings in,
 * {@code expected.usda} with what comes of it, worked out by hand, and {@code case.txt}.
 *
 * <p>The first line of {@code case.txt} is the rule. Then come {@code clause}, the part of the AOUSD Core
 * Specification 1.0 that it is of, and options: {@code unload} a payload's prim, {@code mask} a prim,
 * {@code fallbacks} of a variant set, the {@code problems} to be reported, and {@code tinyusdz}, where that program
 * does not compose the case: what it does instead.
 */
record CompositionCase(Path folder, String title, Map<String, String> options) {
    private static final Path CASES = Path.of("src/test/resources/pantry/usd/cases");

    static List<CompositionCase> all() throws IOException {
        try (Stream<Path> folders = Files.list(CASES)) {
            return folders.sorted().map(CompositionCase::read).toList();
        }
    }

    private static CompositionCase read(Path folder) {
        try {
            List<String> lines = Files.readAllLines(folder.resolve("case.txt"));
            Map<String, String> options = new HashMap<>();
            for (String line : lines.subList(1, lines.size())) {
                int colon = line.indexOf(": ");
                options.put(line.substring(0, colon), line.substring(colon + 2));
            }
            return new CompositionCase(folder, lines.getFirst(), options);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    Path main() {
        return folder.resolve("main.usda").toAbsolutePath();
    }

    Optional<String> option(String name) {
        return Optional.ofNullable(options.get(name));
    }

    Stage stage() {
        LayerCache layers = new LayerCache();
        Population population = Population.ALL
                .withLoads(path ->
                        option("unload").map(SdfPath::of).filter(path::equals).isEmpty())
                .withMask(option("mask").map(SdfPath::of).stream().toList());
        if (option("fallbacks").isPresent()) {
            String[] parts = option("fallbacks").get().split("=");
            population = population.withFallbacks(Map.of(parts[0], List.of(parts[1].split(","))));
        }
        return Stage.open(layers.open(main()), layers, population);
    }

    String expected() {
        return comparable(UsdaReader.read(folder.resolve("expected.usda")));
    }

    String flattened(Stage stage) {
        return comparable(Flattener.flatten(stage, Flattener.Instances.EXPANDED, main()));
    }

    /** The prims of a layer as text, properties and metadata in the order of their names, which does not count. */
    static String comparable(Layer layer) {
        Layer sorted = Layer.anonymous();
        layer.rootPrims().forEach(prim -> sorted.root().add(sorted(prim)));
        return UsdaWriter.write(sorted);
    }

    private static PrimSpec sorted(PrimSpec prim) {
        PrimSpec copy = new PrimSpec(prim.specifier(), prim.typeName(), prim.name());
        prim.metadata().entrySet().stream().sorted(Map.Entry.comparingByKey()).forEach(field -> copy.metadata()
                .put(field.getKey(), field.getValue()));
        prim.properties().stream()
                .sorted(Comparator.comparing(PropertySpec::name))
                .forEach(property -> copy.put(sorted(property)));
        prim.children().forEach(child -> copy.add(sorted(child)));
        prim.variantSets().forEach((set, variants) -> {
            for (VariantSpec variant : variants.values()) {
                throw new AssertionError("a flattened layer has no variant {" + set + "=" + variant.name() + "}");
            }
        });
        return copy;
    }

    private static PropertySpec sorted(PropertySpec property) {
        PropertySpec copy = property.copy();
        copy.metadata().clear();
        property.metadata().entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(field -> copy.metadata().put(field.getKey(), field.getValue()));
        return copy;
    }

    @Override
    public String toString() {
        return folder.getFileName() + ": " + title;
    }
}
