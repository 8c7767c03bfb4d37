package pantry.desktop.receive;

import java.lang.ref.SoftReference;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.catalogue.Alike;
import pantry.exchange.format.Imported;
import pantry.intake.Slip;
import pantry.intake.Survey;

/** A file that waits to be taken in. What was read of it is kept while there is room, and read again otherwise. */
public final class Arrival {
    private final Path file;
    private final Path root;
    private final boolean alone;
    private final ObjectProperty<State> state = new SimpleObjectProperty<>(State.WAITING);
    private final StringProperty message = new SimpleStringProperty("");
    private final BooleanProperty ticked = new SimpleBooleanProperty(true);
    private final ObjectProperty<Optional<Survey>> survey = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<Slip>> slip = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<List<Alike>> alike = new SimpleObjectProperty<>(List.of());
    private final ObjectProperty<Optional<String>> known = new SimpleObjectProperty<>(Optional.empty());
    private boolean decided;
    private boolean compared;
    private SoftReference<@Nullable Imported> contents = new SoftReference<>(null);
    private byte @Nullable [] picture;

    /** How far it has come. */
    public enum State {
        WAITING,
        READING,
        READY,
        SHELVING,
        SHELVED,
        REFUSED
    }

    /** @param root the folder that was taken in, or the file itself */
    Arrival(Path file, Path root) {
        this(file, root, false);
    }

    private Arrival(Path file, Path root, boolean alone) {
        this.file = file;
        this.root = root;
        this.alone = alone;
    }

    /** A file that is taken by itself, whatever it makes together with those beside it. */
    static Arrival ofFileAlone(Path file, Path root) {
        return new Arrival(file, root, true);
    }

    boolean isAlone() {
        return alone;
    }

    Path root() {
        return root;
    }

    public Path file() {
        return file;
    }

    public String name() {
        return file.getFileName().toString();
    }

    /** The folder it is listed under: its own, told from the folder that was taken in. */
    public String group() {
        Path folder = file.getParent();
        Path top = root.equals(file) ? folder : root;
        if (folder == null || top == null) {
            return "";
        }
        String name =
                top.getFileName() == null ? top.toString() : top.getFileName().toString();
        String inner = top.relativize(folder).toString().replace('\\', '/');
        return inner.isEmpty() ? name : name + "/" + inner;
    }

    public ObjectProperty<State> stateProperty() {
        return state;
    }

    public State state() {
        return state.get();
    }

    /** Brings it from one state to the next; nothing where it has gone on to another meanwhile. */
    void move(State from, State to) {
        if (state.get() == from) {
            state.set(to);
        }
    }

    /** Whether something can still be chosen for it. */
    public boolean isOpen() {
        return switch (state.get()) {
            case WAITING, READING, READY -> true;
            case SHELVING, SHELVED, REFUSED -> false;
        };
    }

    /** Why it was refused, or where it stands now. */
    public StringProperty messageProperty() {
        return message;
    }

    /** Whether it is shelved together with the other ticked ones. */
    public BooleanProperty tickedProperty() {
        return ticked;
    }

    /** That the same thing is on a shelf already, or on the list, in words; empty once somebody has decided what it is. */
    public ObjectProperty<Optional<String>> knownProperty() {
        return known;
    }

    /** Somebody decides whether it is shelved, whatever it is like. */
    public void choose(boolean wanted) {
        decided = true;
        known.set(Optional.empty());
        ticked.set(wanted);
    }

    /** Somebody has dealt with why it was refused: it is shelved with the others again. */
    void putRight() {
        if (isOpen() && !message.get().isEmpty()) {
            message.set("");
            ticked.set(true);
        }
    }

    /** Whether it was looked for among what stands on the shelves and on the list, or somebody has decided without that. */
    boolean isJudged() {
        return decided || compared;
    }

    /** Leaves it out where it is known already, unless somebody has decided. */
    void judge(Optional<String> words) {
        compared = true;
        if (decided || !isOpen() || known.get().equals(words)) {
            return;
        }
        ticked.set(words.isEmpty());
        known.set(words);
    }

    /** Whether it was read, and its shape is only what shows it ({@link pantry.intake.ArrivalSummary#isShapeless}). */
    public boolean isShapeless() {
        return survey.get().filter(read -> read.outline().isShapeless()).isPresent();
    }

    /** What was found in it; empty until it was read. */
    public ObjectProperty<Optional<Survey>> surveyProperty() {
        return survey;
    }

    public ObjectProperty<Optional<Slip>> slipProperty() {
        return slip;
    }

    /** Assets of nearly the same shape, the likest first. */
    public ObjectProperty<List<Alike>> alikeProperty() {
        return alike;
    }

    /** How tall it would be on its shelf, metres; not a number where that is not known. */
    double height() {
        return survey.get()
                .flatMap(found -> slip.get()
                        .map(chosen -> found.outline()
                                        .upright()
                                        .getOrDefault(chosen.up(), Box3.EMPTY)
                                        .size()
                                        .y()
                                * chosen.factor()))
                .orElse(Double.NaN);
    }

    /** What was read; empty where it has to be read again. */
    public Optional<Imported> contents() {
        return Optional.ofNullable(contents.get());
    }

    void forgetContents() {
        contents = new SoftReference<>(null);
    }

    void setContents(Imported read) {
        contents = new SoftReference<>(read);
    }

    /** A small picture of it, PNG. */
    public Optional<byte[]> picture() {
        return Optional.ofNullable(picture);
    }

    void setPicture(byte @Nullable [] png) {
        picture = png;
    }

    /** The names of the textures that were not found. */
    public List<String> missing() {
        return survey.get().map(Survey::missing).orElse(List.of());
    }
}
