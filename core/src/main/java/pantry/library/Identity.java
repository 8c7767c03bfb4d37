package pantry.library;

import java.util.LinkedHashMap;
import java.util.Map;
import pantry.usd.PrimSpec;
import pantry.usd.Value;

/** What an asset is known by, as it is written into its layers and seals. */
public record Identity(String id, String name) {
    /** The label of the file that a version was made of. */
    public static final String SOURCE = "Source-File";

    public static Identity of(Asset asset) {
        return new Identity(asset.card().id(), asset.card().name());
    }

    /** Writes it to the root prim of a version, as OpenUSD's {@code assetInfo}. */
    public void write(PrimSpec root, String version) {
        Map<String, Value.Dictionary.Entry> info = new LinkedHashMap<>();
        info.put("identifier", new Value.Dictionary.Entry("string", new Value.Text(id)));
        info.put("name", new Value.Dictionary.Entry("string", new Value.Text(name)));
        info.put("version", new Value.Dictionary.Entry("string", new Value.Text(version)));
        root.metadata().put("assetInfo", new Value.Dictionary(info));
    }

    /**
     * The labels of a seal that tell it.
     *
     * @param source the name of the file that the version was made of; empty where there is none
     */
    public Map<String, String> labels(String source) {
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put("External-Identifier", id);
        labels.put("External-Description", name);
        if (!source.isEmpty()) {
            labels.put(SOURCE, source);
        }
        return labels;
    }
}
