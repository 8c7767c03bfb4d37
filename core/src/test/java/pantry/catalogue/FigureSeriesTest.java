package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.model.Model;
import pantry.motion.Skeleton;
import pantry.testing.Moving;
import pantry.testing.Workshop;

class FigureSeriesTest {
    @TempDir
    private Path folder;

    private static IndexedAsset figure(String name, String kind, String shelf, String library, String skeleton) {
        return new IndexedAsset(
                name,
                name,
                kind,
                shelf,
                "v001",
                "ready",
                1,
                100,
                List.of(),
                "",
                "",
                "",
                Map.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                new double[] {1, 1, 1},
                0,
                "",
                library,
                library + "/" + name,
                new IndexedAsset.Moving(skeleton.isEmpty() ? 0 : 4, List.of(), List.of(), skeleton));
    }

    private static List<String> names(List<IndexedAsset> listed) {
        return FigureSeries.of(listed).stream()
                .map(series -> String.join(
                        "+", series.items().stream().map(IndexedAsset::name).toList()))
                .toList();
    }

    @Test
    void figuresOfOneSkeletonOnOneShelfStandWhereTheFirstOfThemDoes() {
        assertThat(names(List.of(
                        figure("Cook", "model", "People", "/a", "upright"),
                        figure("Dog", "model", "People", "/a", "four legs"),
                        figure("Pilot", "model", "People", "/a", "upright"),
                        figure("Wolf", "prefab", "People", "/a", "four legs"),
                        figure("Chair", "model", "People", "/a", ""),
                        figure("Table", "model", "People", "/a", ""))))
                .containsExactly("Cook+Pilot", "Dog+Wolf", "Chair", "Table");
    }

    @Test
    void otherShelvesLibrariesAndMotionsAreNotOfTheSeries() {
        assertThat(names(List.of(
                        figure("Cook", "model", "People", "/a", "upright"),
                        figure("Pilot", "model", "Crew", "/a", "upright"),
                        figure("Guest", "model", "People", "/b", "upright"),
                        figure("Walk", "motion", "People", "/a", "upright"),
                        figure("Run", "motion", "People", "/a", "upright"))))
                .containsExactly("Cook", "Pilot", "Guest", "Walk", "Run");
    }

    /** As they are read from the library's folder, and again from the index. */
    @Test
    void theNamesAndTheOrderOfTheJointsTellSkeletonsApart() {
        try (Workshop workshop = new Workshop(folder);
                Catalogue catalogue = Catalogue.open(folder.resolve("index.sqlite"))) {
            Model vane = Moving.vane();
            Model other = renamed(vane);
            Stream.of("One", "Two").forEach(name -> workshop.intake()
                    .shelve(vane, Workshop.slip(name, "Wind"), workshop.library(), Progress.NONE));
            workshop.intake().shelve(other, Workshop.slip("Three", "Wind"), workshop.library(), Progress.NONE);
            catalogue.refresh(workshop.library(), Progress.NONE);
            assertThat(names(catalogue.finder(List.of(workshop.library())).items()))
                    .containsExactlyInAnyOrder("One+Two", "Three");
        }
    }

    private static Model renamed(Model model) {
        Skeleton skeleton = model.extras().skeleton().orElseThrow();
        List<Skeleton.Joint> joints = skeleton.joints().stream()
                .map(joint -> new Skeleton.Joint(joint.name() + " 2", joint.parent(), joint.rest(), joint.bind()))
                .toList();
        return model.with(model.extras().with(Optional.of(new Skeleton(joints, List.of()))));
    }
}
