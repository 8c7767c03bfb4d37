package pantry.desktop.controls;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;

/** A line of text in which the beginnings of words that were looked for are marked. */
public final class MarkedText extends TextFlow {
    /** @param beginnings in lower case */
    public MarkedText(String text, Collection<String> beginnings) {
        for (Piece piece : pieces(text, beginnings)) {
            Text part = new Text(piece.text());
            part.getStyleClass().add(piece.marked() ? "matched" : "unmatched");
            getChildren().add(part);
        }
        setAccessibleText(text);
        // One line, which is cut by what it stands in rather than wrapped.
        setMinWidth(0);
    }

    /** A part of a text that is marked as a whole, or not. */
    record Piece(String text, boolean marked) {}

    static List<Piece> pieces(String text, Collection<String> beginnings) {
        List<Piece> pieces = new ArrayList<>();
        String lower = text.toLowerCase(Locale.ROOT);
        if (lower.length() != text.length()) {
            return List.of(new Piece(text, false));
        }
        int done = 0;
        for (int at = 0; at < text.length(); at++) {
            int start = at;
            boolean begins = Character.isLetterOrDigit(lower.charAt(at))
                    && (at == 0 || !Character.isLetterOrDigit(lower.charAt(at - 1)));
            int length = begins
                    ? beginnings.stream()
                            .filter(word -> lower.startsWith(word, start))
                            .mapToInt(String::length)
                            .max()
                            .orElse(0)
                    : 0;
            if (length > 0) {
                if (at > done) {
                    pieces.add(new Piece(text.substring(done, at), false));
                }
                pieces.add(new Piece(text.substring(at, at + length), true));
                done = at + length;
                at = done - 1;
            }
        }
        if (done < text.length()) {
            pieces.add(new Piece(text.substring(done), false));
        }
        return pieces;
    }
}
