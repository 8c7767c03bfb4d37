package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.usecase.AlikeSkeletons.Alike;

/** Motions and figures of one skeleton, found on a card and tried there, without a window. */
class SkeletonModelTest {
    /** A motion of the rope alone, which sinks by seven metres in a second. */
    private static final String GALE = """
            #usda 1.0
            ( defaultPrim = "Gale" metersPerUnit = 1 upAxis = "Y" )
            def SkelAnimation "Gale" {
                uniform token[] joints = ["Rope"]
                float3[] translations.timeSamples = { 0: [(0, 0, 0)], 24: [(0, -7, 0)] }
                quatf[] rotations = [(1, 0, 0, 0)]
                half3[] scales = [(1, 1, 1)]
            }
            """;

    @TempDir
    private Path folder;

    private Desk desk;
    private ShelvesModel shelves;
    private SkeletonModel model;

    @BeforeEach
    void open() throws Exception {
        desk = new Desk(folder);
        Path flag = Files.writeString(folder.resolve("flag.usda"), Desk.FLAG);
        desk.receive(flag, "Flag", "Wind");
        desk.receive(flag, "Second flag", "Wind");
        desk.receive(Files.writeString(folder.resolve("gale.usda"), GALE), "Gale", "Wind");
        desk.receive(Files.writeString(folder.resolve("other.usda"), GALE.replace("Rope", "Arm")), "Other", "Wind");
        shelves = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
        model = new SkeletonModel(desk.session(), shelves.card());
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void choose(String name) {
        shelves.selectedProperty()
                .set(shelves.search().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst());
    }

    private List<String> names() {
        return model.alikeProperty().get().stream()
                .map(each -> each.item().name())
                .toList();
    }

    private Alike alike(String name) {
        return model.alikeProperty().get().stream()
                .filter(each -> each.item().name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private Model shown() {
        return shelves.card().previewProperty().get().orElseThrow();
    }

    @Test
    void figuresAndMotionsOfTheSameJointsAreFoundAndOthersAreNot() {
        choose("Flag");
        assertThat(names()).containsExactly("Gale", "Second flag");
        assertThat(alike("Gale").isMotion()).isTrue();
        choose("Gale");
        assertThat(names()).containsExactly("Flag", "Second flag");
        choose("Other");
        assertThat(names()).isEmpty();
    }

    @Test
    void aMotionIsTriedOnAFigureFromEitherCard() {
        choose("Flag");
        model.tryOut(alike("Gale"));
        checkSunk();
        assertThat(model.trialProperty().get()).hasValueSatisfying(trial -> {
            assertThat(trial.figure()).isEqualTo("Flag");
            assertThat(trial.motion()).isEqualTo("Gale");
            assertThat(trial.misfits()).isEmpty();
        });
        model.end();
        assertThat(model.trialProperty().get()).isEmpty();
        assertThat(shown().extras().skeleton().orElseThrow().motions())
                .extracting(Motion::name)
                .containsExactly("Hoist");
        choose("Gale");
        model.tryOut(alike("Second flag"));
        checkSunk();
        assertThat(model.trialProperty().get().orElseThrow().figure()).isEqualTo("Second flag");
    }

    private void checkSunk() {
        Posing posing = Posing.of(shown()).orElseThrow();
        Motion motion = posing.skeleton().motions().getFirst();
        assertThat(motion.name()).isEqualTo("Gale");
        assertThat(posing.at(motion, 1).bounds().max().y()).isCloseTo(-6, within(1e-3));
    }

    @Test
    void anotherAssetAnotherVersionOrAnotherLookEndsTheTrial() {
        choose("Flag");
        model.tryOut(alike("Gale"));
        choose("Second flag");
        assertThat(model.trialProperty().get()).isEmpty();
        model.tryOut(alike("Flag"));
        assertThat(model.trialProperty().get()).isPresent();
        shelves.card().choose("look", "other");
        assertThat(model.trialProperty().get()).isEmpty();
    }

    @Test
    void whatDoesNotMoveIsNotTried() {
        choose("Gale");
        assertThat(model.isTriable(alike("Flag"))).isTrue();
        choose("Flag");
        assertThat(model.isTriable(alike("Gale"))).isTrue();
        assertThat(model.isTriable(alike("Second flag"))).isTrue();
    }
}
