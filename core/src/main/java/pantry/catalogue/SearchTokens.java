package pantry.catalogue;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/** Takes texts apart into words as they are compared: without case and accents, in any script. */
final class SearchTokens {
    private static final Pattern MARKS = Pattern.compile("\\p{M}+");

    private SearchTokens() {}

    /** A text without case and accents. */
    static String folded(String text) {
        boolean plain = true;
        for (int i = 0; i < text.length() && plain; i++) {
            plain = text.charAt(i) < 128;
        }
        String parts = plain
                ? text
                : MARKS.matcher(Normalizer.normalize(text, Normalizer.Form.NFKD))
                        .replaceAll("");
        return parts.toLowerCase(Locale.ROOT);
    }

    /** The words of a folded text, in order. */
    static List<String> of(String folded) {
        List<String> words = new ArrayList<>();
        int start = -1;
        for (int i = 0; i <= folded.length(); ) {
            int c = i < folded.length() ? folded.codePointAt(i) : ' ';
            boolean inWord = Character.isLetterOrDigit(c);
            if (inWord && start < 0) {
                start = i;
            } else if (!inWord && start >= 0) {
                words.add(folded.substring(start, i));
                start = -1;
            }
            i += Character.charCount(c);
        }
        return words;
    }

    /** Under what a word is found: itself, and where a script sets no blanks between words, all its ends too. */
    static List<String> keys(String word) {
        if (word.isEmpty() || !Character.isIdeographic(word.codePointAt(0)) && !unspaced(word.codePointAt(0))) {
            return List.of(word);
        }
        List<String> keys = new ArrayList<>();
        for (int i = 0; i < word.length(); i = word.offsetByCodePoints(i, 1)) {
            keys.add(word.substring(i));
        }
        return keys;
    }

    private static boolean unspaced(int c) {
        return switch (Character.UnicodeScript.of(c)) {
            case HIRAGANA, KATAKANA, THAI, LAO, KHMER, MYANMAR -> true;
            default -> false;
        };
    }

    /**
     * Whether a word begins with another one in which one typing error was made: a letter too many, too few, another
     * one, or two exchanged.
     */
    static boolean beginsNearly(String word, String typed) {
        int shared = 0;
        int most = Math.min(word.length(), typed.length());
        while (shared < most && word.charAt(shared) == typed.charAt(shared)) {
            shared++;
        }
        if (shared == typed.length()) {
            return true;
        }
        if (shared == word.length()) {
            return typed.length() == word.length() + 1;
        }
        String rest = typed.substring(shared + 1);
        return word.startsWith(rest, shared + 1)
                || word.startsWith(rest, shared)
                || word.startsWith(typed.substring(shared), shared + 1)
                || shared + 1 < typed.length()
                        && shared + 1 < word.length()
                        && typed.charAt(shared) == word.charAt(shared + 1)
                        && typed.charAt(shared + 1) == word.charAt(shared)
                        && word.startsWith(typed.substring(shared + 2), shared + 2);
    }
}
