package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.prep.inspect.Brief;
import pantry.prep.inspect.Severity;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;

/** Something that can be inspected: a file, or an asset of a library. */
public final class InspectionItem {
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

    /** A version of an asset, as the index tells it: nothing of it is read before it is opened. */
    record AssetVersion(Library library, String id, Path folder, String name, String shelf, String version) {
        static AssetVersion of(Library library, IndexedAsset item) {
            return new AssetVersion(
                    library, item.id(), Path.of(item.folder()), item.name(), item.shelf(), item.version());
        }

        AssetVersion withVersion(String other) {
            return new AssetVersion(library, id, folder, name, shelf, other);
        }

        /** The asset as it stands on disk now. */
        Asset current() {
            return library.current(folder, id);
        }

        private Workpiece open(Workbench workbench) {
            return workbench.workpiece(library, current(), version);
        }
    }

    /** What makes two items the same thing. */
    record Key(From from, Optional<Path> file, String asset) {}

    private final From from;
    private final String title;
    private final Optional<Path> file;
    private final Optional<AssetVersion> asset;
    private final ObjectProperty<Optional<Tally>> tally = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<Opened>> kept = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<String>> problem = new SimpleObjectProperty<>(Optional.empty());

    private volatile Optional<Workpiece.Reading> reading = Optional.empty();

    private InspectionItem(From from, String title, Optional<Path> file, Optional<AssetVersion> asset) {
        this.from = from;
        this.title = title;
        this.file = file;
        this.asset = asset;
    }

    static InspectionItem of(From from, Path file) {
        return new InspectionItem(from, file.getFileName().toString(), Optional.of(file), Optional.empty());
    }

    static InspectionItem of(AssetVersion asset) {
        return new InspectionItem(From.ASSET, asset.name(), Optional.empty(), Optional.of(asset));
    }

    /** A fresh working copy of it. */
    Workpiece open(Workbench workbench, Progress progress) {
        return asset.map(version -> version.open(workbench))
                .orElseGet(() -> workbench.workpiece(file.orElseThrow(), reading::orElse, progress));
    }

    /** Has its figures understood so when it is opened next; where empty, as the file says or is likely. */
    void read(Optional<Workpiece.Reading> wanted) {
        reading = wanted;
    }

    Optional<Workpiece.Reading> reading() {
        return reading;
    }

    public From from() {
        return from;
    }

    public String title() {
        return title;
    }

    /** Where it is: its folder, or its shelf. */
    public String place() {
        return asset.map(AssetVersion::shelf)
                .orElseGet(() -> Optional.ofNullable(file.orElseThrow().getParent())
                        .map(Path::toString)
                        .orElse(""));
    }

    public Optional<Path> file() {
        return file;
    }

    /** The version that it is; empty where it is a file. */
    Optional<AssetVersion> asset() {
        return asset;
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

    Key key() {
        return new Key(
                from, file, asset.map(each -> each.id() + " " + each.version()).orElse(""));
    }
}
