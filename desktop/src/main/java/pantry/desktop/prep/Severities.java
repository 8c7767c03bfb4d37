package pantry.desktop.prep;

import org.kordamp.ikonli.javafx.FontIcon;
import pantry.prep.inspect.Severity;

/** The drawn signs of severities; a word goes with each wherever there is room. */
final class Severities {
    private Severities() {}

    static FontIcon of(Severity severity) {
        FontIcon icon = new FontIcon(
                switch (severity) {
                    case WRONG -> "remixal-close-circle-line";
                    case CAUTION -> "remixal-alert-line";
                    case INFORMATION, OFF -> "remixal-information-line";
                });
        icon.getStyleClass().add("severity-" + severity.word());
        return icon;
    }
}
