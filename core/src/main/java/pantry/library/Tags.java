package pantry.library;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import pantry.base.Names;
import pantry.base.PantryException;

/** Tags as people write them, by one rule wherever they are written: on a slip, on a card, by command. */
public final class Tags {
    private static final int LONGEST = 60;

    private Tags() {}

    /**
     * The tags in what was written: commas part them, blanks around them are cut, each counts once whatever its case.
     *
     * @throws PantryException where one has characters that cannot be seen, or more than 60
     */
    public static List<String> given(String written) {
        return given(List.of(written));
    }

    /** As above, of what was written in several places. */
    public static List<String> given(Collection<String> written) {
        Map<String, String> tags = new LinkedHashMap<>();
        for (String each : written) {
            for (String part : each.split(",")) {
                String tag =
                        Normalizer.normalize(part, Normalizer.Form.NFC).strip().replaceAll(" +", " ");
                if (!tag.isEmpty()) {
                    requireTag(tag);
                    tags.putIfAbsent(tag.toLowerCase(Locale.ROOT), tag);
                }
            }
        }
        return new ArrayList<>(tags.values());
    }

    private static void requireTag(String tag) {
        Names.given(tag);
        int length = tag.codePointCount(0, tag.length());
        if (length > LONGEST) {
            throw new PantryException("a tag of " + length + " characters is too long; it may have " + LONGEST);
        }
    }
}
