package pantry.desktop.scenes;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.scene.Sections;

/** Who holds the sections of the open scene, and what others do to their files: it is shown within seconds. */
final class SectionWatch {
    private final OpenScene scene;
    private final Session session;
    private final LatestWork looking;
    private final ReadOnlyObjectWrapper<Map<Path, String>> holders = new ReadOnlyObjectWrapper<>(Map.of());

    /** When each file was changed last, and its length, as the scene shows it. */
    private Map<Path, String> shown = Map.of();

    /** What is seen of the files at a moment. */
    private record Seen(Map<Path, String> stamps, Map<Path, String> holders) {}

    SectionWatch(OpenScene scene) {
        this.scene = scene;
        this.session = scene.session();
        this.looking = new LatestWork(session.background());
        scene.whenOpened(opened -> begin(), closed -> begin());
    }

    private void begin() {
        shown = Map.of();
        holders.set(Map.of());
    }

    /** Who holds each section, and the open file, by the file; those that nobody holds are not in it. */
    ReadOnlyObjectProperty<Map<Path, String>> holdersProperty() {
        return holders.getReadOnlyProperty();
    }

    /** Looks at the files, in the background. */
    void look() {
        scene.get().ifPresent(open -> {
            Set<Path> files = new LinkedHashSet<>();
            for (Placement placement : scene.placementsOfFiles()) {
                if (open.sections().isSection(placement)) {
                    files.add(placement.layer());
                }
            }
            looking.quietly("looking at the sections", progress -> seen(open.file(), files), seen -> show(open, seen));
        });
    }

    private static Seen seen(Path own, Set<Path> files) {
        Map<Path, String> stamps = new LinkedHashMap<>();
        Map<Path, String> holders = new LinkedHashMap<>();
        for (Path file : files) {
            stamps.put(file, stamp(file));
            Sections.holder(file).ifPresent(hold -> holders.put(file, hold.who()));
        }
        Sections.holder(own).ifPresent(hold -> holders.put(own, hold.who()));
        return new Seen(stamps, holders);
    }

    private static String stamp(Path file) {
        try {
            return Files.getLastModifiedTime(file) + " " + Files.size(file);
        } catch (IOException e) {
            return "not there";
        }
    }

    private void show(Scene open, Seen seen) {
        if (!scene.isOpen(open)) {
            return;
        }
        List<Path> changed = seen.stamps().entrySet().stream()
                .filter(each ->
                        shown.containsKey(each.getKey()) && !each.getValue().equals(shown.get(each.getKey())))
                .map(Map.Entry::getKey)
                .toList();
        shown = seen.stamps();
        holders.set(seen.holders());
        if (!changed.isEmpty()) {
            scene.readAgain();
            session.sceneThumbnails().outdated();
            for (Path file : changed) {
                String by = Optional.ofNullable(seen.holders().get(file))
                        .map(who -> " by " + who)
                        .orElse("");
                session.told(file.getFileName() + " was changed" + by + ", and is shown anew");
            }
        }
    }
}
