package pantry.exchange.worker;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.lwjgl.assimp.AIMetaData;
import org.lwjgl.assimp.AIMetaDataEntry;
import org.lwjgl.assimp.AIString;
import org.lwjgl.assimp.Assimp;

/** What Assimp hands over of an object, or of a whole file, beside surfaces and places. */
final class AssimpValues {
    /** What Assimp says of its own reading. */
    private static final Predicate<String> OF_READING = name -> name.startsWith("SourceAsset_");

    private static final String COPYRIGHT = "SourceAsset_Copyright";

    /** Longer texts are cut. */
    private static final int LONGEST = 1_000;

    /** So many are kept of one object. */
    private static final int MOST = 200;

    private AssimpValues() {}

    /**
     * The values, by their names; blank texts say nothing.
     *
     * @param wanted which of them are said by the file rather than by its format
     */
    static Map<String, Object> of(@Nullable AIMetaData metadata, Predicate<String> wanted) {
        Map<String, Object> values = new LinkedHashMap<>();
        if (metadata == null) {
            return values;
        }
        AIString.Buffer keys = metadata.mKeys();
        AIMetaDataEntry.Buffer entries = metadata.mValues();
        for (int i = 0; i < metadata.mNumProperties() && values.size() < MOST; i++) {
            String name = keys.get(i).dataString();
            if (name.equals(COPYRIGHT) || wanted.test(name) && !OF_READING.test(name)) {
                value(entries.get(i))
                        .ifPresent(value -> values.put(name.equals(COPYRIGHT) ? "Copyright" : name, value));
            }
        }
        return values;
    }

    /** A number of the given name; empty where there is none. */
    static Optional<Double> number(@Nullable AIMetaData metadata, String name) {
        return Optional.ofNullable(of(metadata, name::equals).get(name))
                .filter(Double.class::isInstance)
                .map(Double.class::cast);
    }

    /** Empty for what is no text, number or truth, or not finite. */
    private static Optional<Object> value(AIMetaDataEntry entry) {
        return switch (entry.mType()) {
            case Assimp.AI_BOOL -> Optional.of(data(entry, 1).get(0) != 0);
            case Assimp.AI_INT32 -> Optional.of((double) data(entry, 4).getInt(0));
            case Assimp.AI_UINT64 -> Optional.of((double) data(entry, 8).getLong(0));
            case Assimp.AI_FLOAT -> finite(data(entry, 4).getFloat(0));
            case Assimp.AI_DOUBLE -> finite(data(entry, 8).getDouble(0));
            case Assimp.AI_AISTRING -> text(entry);
            case Assimp.AI_AIVECTOR3D -> {
                ByteBuffer numbers = data(entry, 12);
                List<Float> three = List.of(numbers.getFloat(0), numbers.getFloat(4), numbers.getFloat(8));
                yield three.stream().allMatch(Float::isFinite)
                        ? Optional.of(three.get(0) + ", " + three.get(1) + ", " + three.get(2))
                        : Optional.empty();
            }
            default -> Optional.empty();
        };
    }

    private static Optional<Object> finite(double number) {
        return Double.isFinite(number) ? Optional.of(number) : Optional.empty();
    }

    private static Optional<Object> text(AIMetaDataEntry entry) {
        int length = Math.clamp(data(entry, 4).getInt(0), 0, LONGEST);
        byte[] bytes = new byte[length];
        data(entry, 4 + length).get(4, bytes);
        String text = new String(bytes, StandardCharsets.UTF_8).strip();
        return text.isEmpty() ? Optional.empty() : Optional.of(text);
    }

    private static ByteBuffer data(AIMetaDataEntry entry, int length) {
        return entry.mData(length).order(ByteOrder.nativeOrder());
    }
}
