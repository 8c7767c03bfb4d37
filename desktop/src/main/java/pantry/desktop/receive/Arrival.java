package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import pantry.exchange.Facts;
import pantry.exchange.Imported;
import pantry.exchange.Texture;
import pantry.intake.Slip;

/** A file that waits to be taken in. */
public final class Arrival {
    private final Path file;
    private final ObjectProperty<State> state = new SimpleObjectProperty<>(State.WAITING);
    private final StringProperty message = new SimpleStringProperty("");
    private final BooleanProperty ticked = new SimpleBooleanProperty(true);
    private final ObjectProperty<Optional<Imported>> contents = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<Slip>> slip = new SimpleObjectProperty<>(Optional.empty());
    private Optional<Facts> facts = Optional.empty();

    /** How far it has come. */
    public enum State {
        WAITING,
        READING,
        READY,
        SHELVING,
        SHELVED,
        REFUSED
    }

    Arrival(Path file) {
        this.file = file;
    }

    public Path file() {
        return file;
    }

    public String name() {
        return file.getFileName().toString();
    }

    public ObjectProperty<State> stateProperty() {
        return state;
    }

    /** Why it was refused, or where it stands now. */
    public StringProperty messageProperty() {
        return message;
    }

    /** Whether it is shelved together with the other ticked ones. */
    public BooleanProperty tickedProperty() {
        return ticked;
    }

    public ObjectProperty<Optional<Imported>> contentsProperty() {
        return contents;
    }

    public ObjectProperty<Optional<Slip>> slipProperty() {
        return slip;
    }

    /** What was measured, in the file's own unit. */
    public Optional<Facts> facts() {
        return facts;
    }

    void setFacts(Facts measured) {
        facts = Optional.of(measured);
    }

    /** The names of the textures that were not found. */
    public List<String> missing() {
        return contents.get()
                .map(imported -> imported.model().textures().stream()
                        .filter(texture -> !texture.found())
                        .map(Texture::name)
                        .toList())
                .orElse(List.of());
    }
}
