package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.usd.MeshCache;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.schema.TransformComponents;

class PlacesTest extends WithWorkshop {
    private Places places;

    @BeforeEach
    void open() {
        places = library.places();
    }

    /** Whether a scene still finds all it refers to, as any USD program would. */
    private static void assertWhole(Path scene) {
        Stage stage = Stage.open(new LayerCache().open(scene), new LayerCache());
        assertThat(stage.problems()).isEmpty();
    }

    @Test
    void shelvesAreMadeAndRemovedWhereNothingStandsOnThem() {
        places.make("Site/Stores/North");
        assertThat(library.shelves()).containsExactly("Site", "Site/Stores", "Site/Stores/North");
        assertThatThrownBy(() -> places.remove("Site/Stores")).hasMessageContaining("has shelves below it");
        workshop.block("Crate", "Site/Stores/North", 1);
        assertThatThrownBy(() -> places.remove("Site/Stores/North")).hasMessageContaining("has assets on it");
        Asset moved = places.move(library.find("Crate"), "Site");
        assertThat(moved.address()).isEqualTo("Site/Crate");
        places.remove("Site/Stores/North");
        assertThat(library.shelves()).containsExactly("Site", "Site/Stores");
        places.make("Site/Stores/North");
        assertThat(library.shelves()).as("it can be made again").contains("Site/Stores/North");
        assertThatThrownBy(() -> places.remove("Nowhere")).hasMessageContaining("no such shelf");
        assertThatThrownBy(() -> places.make("a/../..")).hasMessageContaining("cannot be a shelf");
        assertThatThrownBy(() -> places.make(" / ")).hasMessageContaining("needs a name");
    }

    @Test
    void aMoveThatWasStoppedBeforeItBeganLeavesAllWhereItWas() throws Exception {
        workshop.block("Mast", "Masts", 9);
        Path masts = library.root().resolve("assets/Masts");
        stopBeforeMoving(masts, library.root().resolve("assets/Towers"));
        stopBeforeMoving(masts.resolve("mast"), library.root().resolve("assets/Towers/mast"));
        Library again = Library.open(library.root(), "next", Clock.systemUTC());
        assertThat(again.shelves()).containsExactly("Masts");
        assertThat(again.find("Mast").folder()).isEqualTo(masts.resolve("mast"));
        assertThat(again.verify(Progress.NONE).problems()).isEmpty();
        assertThat(library.root().resolve("incoming")).isEmptyDirectory();
        again.places().move("Masts", "Towers", Progress.NONE);
        assertThat(again.shelves()).containsExactly("Towers");
    }

    @Test
    void aNoteOfAMoveFromOutsideTheLibraryIsNotFollowed() throws Exception {
        workshop.block("Mast", "Masts", 9);
        Path outside = Files.createDirectories(folder.resolve("outside"));
        stopBeforeMoving(outside, library.root().resolve("assets/Masts"));
        Library.open(library.root(), "next", Clock.systemUTC());
        assertThat(outside).isEmptyDirectory();
    }

    private void stopBeforeMoving(Path from, Path to) {
        assertThatThrownBy(() -> library.store().incoming().intendingMove(from, to, () -> {
                    throw new IOException("stopped");
                }))
                .hasMessage("stopped");
    }

    @Test
    void aMovedAssetKeepsItsIdAndTheScenesThatUseIt() throws Exception {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Path file = Files.createDirectories(folder.resolve("project")).resolve("yard.usda");
        Scene scene = workshop.newScene(file);
        scene.placements().place(mast, Optional.empty(), "Following", TransformComponents.ORIGIN, Optional.empty());
        scene.placements().place(mast, Optional.of("v001"), "Pinned", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        Asset moved = places.move(mast, "Instruments/Tall");
        assertThat(moved.card().id()).isEqualTo(mast.card().id());
        assertThat(moved.folder()).isEqualTo(library.root().resolve("assets/Instruments/Tall/mast"));
        assertThat(library.assets()).singleElement().isEqualTo(moved);
        assertThat(library.current(mast))
                .as("whoever knew the old place finds it")
                .isEqualTo(moved);
        assertWhole(file);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        places.move(moved, "Somewhere else");
        assertWhole(file);
        Asset back = places.move(library.find("Mast"), "Masts");
        assertThat(back.folder()).as("the signpost makes room").isEqualTo(mast.folder());
        assertWhole(file);
        assertThat(library.journal().entries(mast))
                .extracting(JournalEntry::what, JournalEntry::from)
                .contains(
                        org.assertj.core.groups.Tuple.tuple("moved", "Masts"),
                        org.assertj.core.groups.Tuple.tuple("moved", "Instruments/Tall"));
    }

    @Test
    void anAssetMovedToWhereItsNameIsTakenGetsAnotherFolder() {
        Asset first = workshop.block("Crate", "North", 1);
        Asset second = workshop.block("Crate", "South", 2);
        Asset moved = places.move(second, "North");
        assertThat(moved.slug()).isEqualTo("crate-2");
        assertThat(moved.entryLayer("v001")).exists();
        assertThat(library.assets())
                .extracting(a -> a.card().id())
                .contains(first.card().id(), second.card().id());
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        workshop.block("Crate", "South", 3);
        assertThat(library.assets())
                .as("a signpost is not in the way of a new asset")
                .hasSize(3);
    }

    @Test
    void aShelfIsRenamedWithAllOnItAndScenesStayWhole() {
        Asset mast = workshop.block("Mast", "Instruments/Masts", 9);
        workshop.block("Vane", "Instruments/Wind", 1);
        Path file = folder.resolve("yard.usda");
        Scene scene = workshop.newScene(file);
        scene.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        places.move("Instruments", "Sensors", Progress.NONE);
        assertThat(library.shelves()).containsExactly("Sensors", "Sensors/Masts", "Sensors/Wind");
        assertThat(library.find("Sensors/Masts/Mast").card().id())
                .isEqualTo(mast.card().id());
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertWhole(file);
        places.move("Sensors", "Instruments", Progress.NONE);
        assertThat(library.find("Instruments/Masts/Mast").folder()).isEqualTo(mast.folder());
        assertWhole(file);
        assertThatThrownBy(() -> places.move("Instruments", "Instruments/Old", Progress.NONE))
                .hasMessageContaining("into itself");
        assertThatThrownBy(() -> places.move("Instruments/Masts", "Instruments/Wind", Progress.NONE))
                .hasMessageContaining("already");
    }

    @Test
    void whatUsesAnAssetFollowsWhenEitherIsMoved() throws Exception {
        Asset cell = workshop.block("Cell", "Parts", 1);
        Asset panel = workshop.prefab("Panel", "Power", cell);
        Asset row = workshop.prefab("Row", "Power/Rows", panel);
        Path file = folder.resolve("yard.usda");
        Scene scene = workshop.newScene(file);
        scene.placements().place(row, Optional.empty(), "Row", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        long triangles =
                Scene.open(file, new LayerCache(), new MeshCache()).model().trianglesDrawn();
        assertThat(triangles).isEqualTo(12);
        places.move(cell, "Stores/Small/Parts");
        places.move(library.find("Panel"), "Elsewhere");
        places.move("Power", "Energy/North", Progress.NONE);
        assertThat(Scene.open(file, new LayerCache(), new MeshCache()).model().trianglesDrawn())
                .isEqualTo(triangles);
        assertWhole(library.find("Row").readyLayer());
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(Uses.of(library.find("Row").folder())).singleElement().satisfies(use -> assertThat(use.target())
                .isEqualTo(library.find("Panel").readyLayer()));
        try (var files = Files.walk(library.find("Row").data("v001"))) {
            assertThat(files.filter(Files::isRegularFile)
                            .map(f -> f.getFileName().toString())
                            .toList())
                    .as("and the sealed version was never changed")
                    .contains("row.usda");
        }
    }

    @Test
    void namesInAnyScriptStandOnShelvesInAnyScript() {
        for (String name : List.of("Größe", "風向計", "мачта", "سارية", "🧊 Eis")) {
            Asset asset = workshop.block(name, "Regal/" + name, 1);
            assertThat(library.find(asset.shelf() + "/" + asset.card().name())
                            .card()
                            .id())
                    .isEqualTo(asset.card().id());
        }
        assertThat(library.shelves()).hasSize(6);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }
}
