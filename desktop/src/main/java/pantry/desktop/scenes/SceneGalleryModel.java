package pantry.desktop.scenes;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.usecase.NewFromPattern;

/** The scenes of all open projects, newest first, with their pictures. */
public final class SceneGalleryModel {
    private final Session session;
    private final LatestWork listing;
    private final LatestWork filtering;
    private final List<Entry> all = new ArrayList<>();
    private final ObservableList<Entry> shown = FXCollections.observableArrayList();
    private final StringProperty words = new SimpleStringProperty("");

    /**
     * A scene.
     *
     * @param project the name of its project
     * @param name its path within that
     */
    public record Entry(Path file, String project, String name, Instant modified) {}

    SceneGalleryModel(Session session) {
        this.session = session;
        listing = new LatestWork(session.background());
        filtering = new LatestWork(session.background());
        words.addListener(change -> filter());
        session.reachProperty().addListener(change -> filter());
        session.projects().addListener((ListChangeListener<Path>) change -> refresh());
        session.rewrittenProperty().addListener(change -> refresh());
    }

    /** Those that are shown: all that have the words in their name or their project's, and fulfil the terms. */
    public ObservableList<Entry> shown() {
        return shown;
    }

    /** What is looked for. */
    public StringProperty wordsProperty() {
        return words;
    }

    /** How many scenes there are. */
    public int count() {
        return all.size();
    }

    /** Looks for scenes anew; of those that were changed, new pictures are taken when they are asked for. */
    public void refresh() {
        List<Path> folders = List.copyOf(session.projects());
        listing.quietly("listing scenes", progress -> list(folders), now -> {
            all.clear();
            all.addAll(now);
            session.sceneThumbnails().outdated();
            filter();
        });
    }

    private static List<Entry> list(List<Path> folders) {
        List<Entry> found = new ArrayList<>();
        for (Path folder : folders) {
            Project project = Project.open(folder);
            for (Path file : project.files()) {
                found.add(new Entry(
                        file,
                        project.name(),
                        project.folder().relativize(file).toString().replace('\\', '/'),
                        modified(file)));
            }
        }
        found.sort(Comparator.comparing(Entry::modified).reversed().thenComparing(Entry::file));
        return found;
    }

    private static Instant modified(Path file) {
        try {
            return Files.getLastModifiedTime(file).toInstant();
        } catch (IOException e) {
            // It went just now.
            return Instant.EPOCH;
        }
    }

    private void filter() {
        SceneSearch search = SceneSearch.of(words.get());
        List<Entry> named = all.stream()
                .filter(entry -> search.isNamed(entry.project() + " " + entry.name()))
                .toList();
        if (search.terms().terms().isEmpty()) {
            filtering.drop();
            show(named);
            return;
        }
        Optional<Reach> reach = session.reachProperty().get();
        filtering.quietly(
                "looking for scenes",
                progress -> {
                    Predicate<Path> fulfilled = search.fulfilled(reach);
                    return named.stream()
                            .filter(entry -> fulfilled.test(entry.file()))
                            .toList();
                },
                this::show);
    }

    private void show(List<Entry> found) {
        if (!shown.equals(found)) {
            shown.setAll(found);
        }
    }

    /**
     * Makes a scene that begins with what another one has besides its placements.
     *
     * @param then called with the new one
     */
    public void makeLike(Path pattern, Path file, Consumer<Path> then) {
        session.run(
                "making " + file.getFileName(),
                progress -> new NewFromPattern(session.workbench()).run(pattern, file),
                made -> {
                    session.told("made " + made.getFileName() + " like " + pattern.getFileName());
                    refresh();
                    then.accept(made);
                });
    }
}
