package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.Progress;
import pantry.prep.inspect.Brief;
import pantry.prep.inspect.Severity;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;

/** Something that can be inspected: a file, or an asset of a library. */
public final class Subject {
    /** Where it comes from, in the order of the list. */
    public enum From {
        ARRIVAL("Arrivals"),
        FILE("Files"),
        SCENE("Scenes"),
        ASSET("Assets");

        private final String title;

        From(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /** How many findings there are of each severity. */
    public record Tally(long wrong, long caution, long information) {
        static Tally of(List<Brief> findings) {
            return new Tally(
                    count(findings, Severity.WRONG),
                    count(findings, Severity.CAUTION),
                    count(findings, Severity.INFORMATION));
        }

        private static long count(List<Brief> findings, Severity severity) {
            return findings.stream()
                    .filter(finding -> finding.severity().equals(severity.word()))
                    .count();
        }

        /** Those that somebody ought to look at. */
        public long serious() {
            return wrong + caution;
        }

        public long all() {
            return wrong + caution + information;
        }
    }

    private final From from;
    private final String title;
    private final Optional<Path> file;
    private final Optional<Workpiece.Shelved> shelved;
    private final ObjectProperty<Optional<Tally>> tally = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<Opened>> kept = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<String>> problem = new SimpleObjectProperty<>(Optional.empty());

    private Subject(From from, String title, Optional<Path> file, Optional<Workpiece.Shelved> shelved) {
        this.from = from;
        this.title = title;
        this.file = file;
        this.shelved = shelved;
    }

    static Subject of(From from, Path file) {
        return new Subject(from, file.getFileName().toString(), Optional.of(file), Optional.empty());
    }

    static Subject of(Workpiece.Shelved shelved) {
        return new Subject(From.ASSET, shelved.asset().card().name(), Optional.empty(), Optional.of(shelved));
    }

    /** A fresh working copy of it. */
    Workpiece open(Workbench workbench, Progress progress) {
        return shelved.map(place -> workbench.workpiece(place.library(), place.asset(), place.version()))
                .orElseGet(() -> workbench.workpiece(file.orElseThrow(), progress));
    }

    public From from() {
        return from;
    }

    public String title() {
        return title;
    }

    /** Where it is: its folder, or its shelf. */
    public String place() {
        return shelved.map(place -> place.asset().shelf())
                .orElseGet(() -> Optional.ofNullable(file.orElseThrow().getParent())
                        .map(Path::toString)
                        .orElse(""));
    }

    public Optional<Path> file() {
        return file;
    }

    public Optional<Workpiece.Shelved> shelved() {
        return shelved;
    }

    /** Empty where it was not inspected yet. */
    public ObjectProperty<Optional<Tally>> tallyProperty() {
        return tally;
    }

    /** Why it cannot be inspected; empty where it can. */
    public ObjectProperty<Optional<String>> problemProperty() {
        return problem;
    }

    /** The working copy that was left with changes; empty where there is none. */
    ObjectProperty<Optional<Opened>> keptProperty() {
        return kept;
    }

    boolean isSame(Subject other) {
        return from == other.from
                && file.equals(other.file)
                && shelved.map(place -> place.asset().card().id() + place.version())
                        .equals(other.shelved.map(place -> place.asset().card().id() + place.version()));
    }
}
