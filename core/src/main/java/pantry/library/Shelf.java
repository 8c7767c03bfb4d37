package pantry.library;

import java.text.Normalizer;
import java.util.Arrays;
import pantry.base.Names;
import pantry.base.PantryException;

/** Checks and cleans the paths of shelves. */
public final class Shelf {
    private static final String REFUSED = "<>:\"|?*\\";

    private Shelf() {}

    /**
     * A shelf's path as it is kept: names joined by single slashes, none at the ends.
     *
     * @throws PantryException where a name would not do as a folder's name everywhere
     */
    public static String path(String written) {
        String[] names = Arrays.stream(written.split("/"))
                .map(name -> Normalizer.normalize(name, Normalizer.Form.NFC).strip())
                .filter(name -> !name.isEmpty())
                .toArray(String[]::new);
        for (String name : names) {
            boolean refused = name.startsWith(".")
                    || name.endsWith(".")
                    || !name.equals(Names.title(name)) && Names.title(name).startsWith(name)
                    || Names.isKeptByLibraries(name)
                    || !Names.given(name).equals(name)
                    || name.chars().anyMatch(c -> c < ' ' || REFUSED.indexOf(c) >= 0);
            if (refused) {
                throw new PantryException(
                        "\"" + name
                                + "\" cannot be a shelf: names do not start or end with a dot, have none of " + REFUSED
                                + " and are none that systems keep for devices, or libraries for what they hold (v001, data, uses)");
            }
        }
        return String.join("/", names);
    }
}
