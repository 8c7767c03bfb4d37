package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;

/** Mixing a part into the material whose card is shown, without a window. */
class MixModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ShelvesModel shelves;
    private LibraryActions actions;

    @BeforeEach
    void open() throws Exception {
        desk = new Desk(folder);
        Material grey = Material.plain("Deck paint", new Colour(0.2f, 0.4f, 0.6f), 0, 0.3);
        desk.workbench()
                .intake()
                .shelve(
                        Samples.balls("Deck paint", List.of(grey)),
                        Slip.plain("Deck paint", AssetKind.MATERIAL, "Materials", 1, Axis.Y),
                        desk.library(),
                        Progress.NONE);
        part("rust.mtlx", "0.4, 0.1, 0.05");
        shelves = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
        actions = new LibraryActions(shelves);
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Path partFile(String name, String colour) throws IOException {
        return Files.writeString(folder.resolve(name), """
                <materialx version="1.39"><nodegraph name="N">
                  <constant name="c" type="color3"><input name="value" type="color3" value="%s"/></constant>
                  <output name="base_color" type="color3" nodename="c"/>
                </nodegraph></materialx>
                """.formatted(colour));
    }

    private void part(String name, String colour) throws IOException {
        Intake intake = desk.workbench().intake();
        Imported read = intake.read(partFile(name, colour), Progress.NONE);
        Slip slip = Intake.suggested(read, "Materials", Neighbours.NONE);
        intake.shelve(read, slip, desk.library(), Progress.NONE);
    }

    private void choose(String name) {
        shelves.selectedProperty()
                .set(shelves.search().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst());
    }

    private MixModel mixing() {
        choose("Deck paint");
        CardModel card = shelves.card();
        return new MixModel(desk.session(), card.detailsProperty().get().orElseThrow(), card);
    }

    private float shownRed() {
        return shelves.card()
                .previewProperty()
                .get()
                .orElseThrow()
                .materials()
                .iterator()
                .next()
                .base()
                .r();
    }

    @Test
    void theCardShowsWhatWouldBecomeOfItUntilThatIsOver() {
        MixModel mix = mixing();
        assertThat(mix.readProperty().get()).isTrue();
        assertThat(mix.partProperty().get().orElseThrow().card().name()).isEqualTo("Rust");
        assertThat(mix.wheres()).containsExactly(MixModel.Where.EVERYWHERE);
        assertThat(shownRed()).isCloseTo(0.2f * 0.3f + 0.4f * 0.7f, within(0.001f));
        mix.amountProperty().set(0.5);
        assertThat(shownRed()).isCloseTo(0.3f, within(0.001f));
        assertThat(mix.wishProperty().get().orElseThrow().note()).isEqualTo("with 50 % Rust");
        mix.end();
        assertThat(shownRed()).isCloseTo(0.2f, within(0.001f));
        mix.amountProperty().set(1);
        assertThat(shownRed()).as("nothing is tried out any more").isCloseTo(0.2f, within(0.001f));
    }

    @Test
    void whatIsPublishedIsTakenBackDoneAgainAndTakenOut() {
        MixModel mix = mixing();
        mix.amountProperty().set(0.5);
        actions.mix(mix.wishProperty().get().orElseThrow().change(), "rusted", VersionStatus.READY);
        mix.end();
        assertThat(desk.library().find("Deck paint").ready()).contains("v002");
        desk.session().history().undo();
        assertThat(desk.library().find("Deck paint").ready()).contains("v001");
        desk.session().history().redo();
        assertThat(desk.library().find("Deck paint").ready()).contains("v002");
        MixModel again = mixing();
        assertThat(again.already()).isPresent();
        assertThat(again.amountProperty().get()).isCloseTo(0.5, within(1e-6));
        again.outProperty().set(true);
        assertThat(shownRed()).isCloseTo(0.2f, within(0.001f));
        MixModel.Wish out = again.wishProperty().get().orElseThrow();
        assertThat(out.note()).isEqualTo("without Rust");
        actions.mix(out.change(), out.note(), VersionStatus.DRAFT);
        assertThat(desk.library().find("Deck paint").ready()).contains("v002");
        assertThat(desk.library().find("Deck paint").newest()).contains("v003");
    }

    @Test
    void materialsThatShowWhatAPartWasAreMadeAnewTogether() throws IOException {
        MixModel mix = mixing();
        actions.mix(mix.wishProperty().get().orElseThrow().change(), "rusted", VersionStatus.READY);
        mix.end();
        choose("Rust");
        assertThat(shelves.card().detailsProperty().get().orElseThrow().behind())
                .isEmpty();
        Asset rust = desk.library().find("Rust");
        Imported redder = desk.workbench().intake().read(partFile("redder.mtlx", "0.9, 0.1, 0.05"), Progress.NONE);
        desk.workbench()
                .intake()
                .publish(
                        redder,
                        Slip.plain("Rust", AssetKind.MATERIAL_PART, "Materials", 1, Axis.Y),
                        new Intake.Next(rust, VersionStatus.READY, "redder"),
                        desk.library(),
                        Progress.NONE);
        desk.session().refreshCatalogue(desk.library());
        shelves.card().reread();
        assertThat(shelves.card().detailsProperty().get().orElseThrow().behind())
                .extracting(asset -> asset.card().name())
                .containsExactly("Deck paint");
        actions.remake();
        assertThat(shelves.card().detailsProperty().get().orElseThrow().behind())
                .isEmpty();
        assertThat(desk.library().find("Deck paint").ready()).contains("v003");
        desk.session().history().undo();
        assertThat(desk.library().find("Deck paint").ready()).contains("v002");
        assertThat(shelves.card().detailsProperty().get().orElseThrow().behind())
                .hasSize(1);
    }

    @Test
    void aMaskThatStandsByItselfSaysWhereAPartShows() throws IOException {
        Imported read =
                desk.workbench().intake().read(Files.writeString(folder.resolve("half.mtlx"), """
                                <materialx version="1.39"><nodegraph name="Half">
                                  <constant name="c" type="float"><input name="value" type="float" value="0.5"/></constant>
                                  <output name="mask" type="float" nodename="c"/>
                                </nodegraph></materialx>
                                """), Progress.NONE);
        desk.workbench()
                .intake()
                .shelve(read, Intake.suggested(read, "Materials", Neighbours.NONE), desk.library(), Progress.NONE);
        MixModel mix = mixing();
        assertThat(mix.wheres())
                .extracting(MixModel.Where::words)
                .containsExactly("everywhere", "where the mask of Half says");
        mix.amountProperty().set(1);
        mix.whereProperty().set(mix.wheres().getLast());
        assertThat(shownRed()).isCloseTo(0.2f * 0.5f + 0.4f * 0.5f, within(0.001f));
        MixModel.Wish wish = mix.wishProperty().get().orElseThrow();
        assertThat(wish.note()).isEqualTo("with 100 % Rust where the mask of Half says");
        actions.mix(wish.change(), wish.note(), VersionStatus.READY);
        mix.end();
        // What one comes back to is as it was left.
        MixModel again = mixing();
        assertThat(again.whereProperty().get().words()).isEqualTo("where the mask of Half says");
        assertThat(again.amountProperty().get()).isCloseTo(1, within(1e-6));
        again.whereProperty().set(MixModel.Where.EVERYWHERE);
        assertThat(shownRed()).isCloseTo(0.4f, within(0.001f));
    }

    @Test
    void withoutPartsThereIsNothingToPublish() {
        desk.library().trash().discard(desk.library().find("Rust"));
        desk.session().refreshCatalogue(desk.library());
        MixModel mix = mixing();
        assertThat(mix.readProperty().get()).isTrue();
        assertThat(mix.availableProperty().get().parts()).isEmpty();
        assertThat(mix.wishProperty().get()).isEqualTo(Optional.empty());
    }
}
