package pantry.base;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.cfg.EnumFeature;
import tools.jackson.databind.json.JsonMapper;

/** The one way Pantry writes JSON: indented, fields in the order of their records, enumerations in lower case. */
public final class Json {
    private static final JsonMapper MAPPER = JsonMapper.builder()
            .enable(SerializationFeature.INDENT_OUTPUT)
            .enable(EnumFeature.WRITE_ENUMS_TO_LOWERCASE)
            .enable(tools.jackson.databind.MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .build();

    private Json() {}

    /** A value as a JSON document, ending in a newline. */
    public static String write(Object value) {
        return MAPPER.writeValueAsString(value) + "\n";
    }

    /** A value as JSON on a single line. */
    public static String line(Object value) {
        return MAPPER.writer().without(SerializationFeature.INDENT_OUTPUT).writeValueAsString(value);
    }

    /** A record as a map of its fields by name. */
    @SuppressWarnings("unchecked")
    public static Map<String, Object> asMap(Object value) {
        return MAPPER.convertValue(value, LinkedHashMap.class);
    }

    /** A record of the fields in a map. */
    public static <T> T ofMap(Map<String, Object> fields, Class<T> type) {
        return MAPPER.convertValue(fields, type);
    }

    /**
     * Reads a record from a file.
     *
     * @throws PantryException naming the file and the place where it is not what was expected
     */
    public static <T> T read(Path file, Class<T> type) {
        try {
            return read(Files.readString(file), file.toString(), type);
        } catch (IOException e) {
            throw new PantryException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Reads a record from text; {@code name} stands for the text in errors.
     *
     * @throws PantryException where the text is not JSON of that shape, with line and column
     */
    public static <T> T read(String text, String name, Class<T> type) {
        try {
            T value = MAPPER.readValue(text, type);
            if (value == null) {
                throw new PantryException(name, null, "is not the JSON that is expected here: it says nothing", null);
            }
            return value;
        } catch (JacksonException e) {
            String place = e.getLocation() == null
                    ? null
                    : "line " + e.getLocation().getLineNr() + ", column "
                            + e.getLocation().getColumnNr();
            throw new PantryException(
                    name, place, "is not the JSON that is expected here: " + e.getOriginalMessage(), e);
        }
    }
}
