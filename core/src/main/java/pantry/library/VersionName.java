package pantry.library;

import java.util.Comparator;
import java.util.regex.Pattern;

/** The names of versions: {@code v001}, {@code v002} and so on. */
final class VersionName {
    private static final Pattern FORM = Pattern.compile("v\\d{3,9}");

    /** Oldest first. */
    static final Comparator<String> ORDER = Comparator.comparingInt(VersionName::number);

    private VersionName() {}

    static boolean matches(String name) {
        return FORM.matcher(name).matches();
    }

    static int number(String version) {
        return Integer.parseInt(version.substring(1));
    }

    static String of(int number) {
        return String.format("v%03d", number);
    }
}
