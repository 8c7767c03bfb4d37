package pantry.base;

/** Text from outside as it may be shown on a terminal, in a log or in one line of a window. */
public final class Printable {
    private Printable() {}

    /**
     * A text without what a terminal or a log would act on: control characters, line ends, and the marks that turn the
     * direction of writing are told by their numbers, {@code \}{@code u001b} for instance.
     */
    public static String of(String text) {
        StringBuilder plain = null;
        int length = text.length();
        for (int i = 0; i < length; ) {
            int point = text.codePointAt(i);
            int next = i + Character.charCount(point);
            if (acts(point)) {
                if (plain == null) {
                    plain = new StringBuilder(length + 16).append(text, 0, i);
                }
                plain.append(String.format("\\u%04x", point));
            } else if (plain != null) {
                plain.appendCodePoint(point);
            }
            i = next;
        }
        return plain == null ? text : plain.toString();
    }

    private static boolean acts(int point) {
        return switch (Character.getType(point)) {
            case Character.CONTROL, Character.LINE_SEPARATOR, Character.PARAGRAPH_SEPARATOR, Character.SURROGATE ->
                true;
            case Character.FORMAT -> isDirection(point);
            default -> false;
        };
    }

    /** Marks, embeddings, overrides and isolates of the bidirectional algorithm (Unicode Standard Annex 9). */
    static boolean isDirection(int point) {
        return point == 0x061c
                || point == 0x200e
                || point == 0x200f
                || (point >= 0x202a && point <= 0x202e)
                || (point >= 0x2066 && point <= 0x2069);
    }
}
