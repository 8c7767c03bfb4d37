package pantry.testing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** What tinyusdz, an independent reader, makes of layers. */
public final class TinyUsdz {
    private TinyUsdz() {}

    /**
     * Composes each file; the results in {@link #facts}' form, or one entry {@code error} where the program gives up,
     * or writes what cannot be read.
     */
    public static List<Map<String, String>> compose(List<Path> files) {
        return run("compose.mjs", files);
    }

    /** Reads each file without composing it, of any format; as {@link #compose}. */
    public static List<Map<String, String>> read(List<Path> files) {
        return run("read-tinyusdz.mjs", files);
    }

    private static List<Map<String, String>> run(String script, List<Path> files) {
        String printed = Oracle.run(script, files.stream().map(Path::toString).toArray(String[]::new));
        List<Map<String, String>> results = new ArrayList<>();
        for (String text : printed.split("\n#end\n")) {
            results.add(result(text));
        }
        return results;
    }

    private static Map<String, String> result(String text) {
        if (text.startsWith("#error")) {
            return Map.of("error", text);
        }
        try {
            return facts(UsdaReader.parse(text));
        } catch (UsdException e) {
            return Map.of("error", e.getMessage());
        }
    }

    /**
     * What a flattened layer says, in a form in which two can be compared: types of prims, values of attributes and
     * targets of relationships by path. Order, metadata and how lists are written do not count.
     */
    public static Map<String, String> facts(Layer layer) {
        Map<String, String> facts = new TreeMap<>();
        layer.rootPrims().forEach(prim -> collect(prim, SdfPath.ROOT.child(prim.name()), facts));
        return facts;
    }

    private static void collect(PrimSpec prim, SdfPath path, Map<String, String> facts) {
        facts.put(path.toString(), prim.typeName());
        for (PropertySpec property : prim.properties()) {
            String at = path.property(property.name()).toString();
            switch (property) {
                case AttributeSpec attribute -> {
                    attribute.value().ifPresent(value -> facts.put(at, UsdaWriter.write(attribute.typeName(), value)));
                    for (double time : attribute.timeSamples().times()) {
                        facts.put(
                                at + "@" + time,
                                UsdaWriter.write(
                                        attribute.typeName(),
                                        attribute.timeSamples().at(time).orElseThrow()));
                    }
                    attribute.connections().applyTo(List.of()).forEach(to -> facts.put(at + " -> " + to, ""));
                }
                case RelationshipSpec relationship ->
                    relationship.targets().applyTo(List.of()).forEach(to -> facts.put(at + " -> " + to, ""));
            }
        }
        prim.children().forEach(child -> collect(child, path.child(child.name()), facts));
    }
}
