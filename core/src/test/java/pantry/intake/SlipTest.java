package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.math.Vec3;
import pantry.library.AssetKind;
import pantry.model.Axis;

class SlipTest {
    @TempDir
    private Path folder;

    private static final Slip SLIP = Slip.plain("Mast", AssetKind.MODEL, "Masts", 1, Axis.Y);

    @Test
    void eachChoiceIsChangedByItself() {
        Slip changed = SLIP.withName("Post")
                .withShelf("Posts")
                .withFactor(0.01)
                .withUp(Axis.Z)
                .withParts(PartsMode.SINGLE)
                .withPivot(Pivot.BASE)
                .withKind(AssetKind.PREFAB)
                .withMaking(ProcessingOptions.USUAL.withLevels(true))
                .withVersionOf(Optional.of("id"))
                .withTags(List.of("tall"))
                .withCredit("CC0-1.0", "workshop")
                .withAllowMissing(true);
        assertThat(changed)
                .isEqualTo(new Slip(
                        "Post",
                        AssetKind.PREFAB,
                        "Posts",
                        0.01,
                        Axis.Z,
                        PartsMode.SINGLE,
                        Pivot.BASE,
                        List.of("tall"),
                        "CC0-1.0",
                        "workshop",
                        true,
                        new ProcessingOptions(Set.of(), CollisionShape.NONE, 1, true),
                        Optional.of("id")));
        assertThatThrownBy(() -> SLIP.withName(" ")).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> SLIP.withFactor(0)).hasMessageContaining("greater than 0");
        assertThatThrownBy(() -> SLIP.withFactor(Double.NaN)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> SLIP.withFactor(Double.POSITIVE_INFINITY))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @ParameterizedTest
    @CsvSource({
        "mm,MILLIMETRES",
        "Centimetres,CENTIMETRES",
        "m,METRES",
        "inch,",
        "in,INCHES",
        "FT,FEET",
        "metre,METRES",
        "furlong,"
    })
    void unitsAreKnownBySymbolAndWord(String written, LengthUnit unit) {
        assertThat(LengthUnit.of(written)).isEqualTo(Optional.ofNullable(unit));
    }

    /** The international inch and foot of 1959: 25.4 mm and 304.8 mm exactly. */
    @Test
    void inchAndFootAreTheInternationalOnes() {
        assertThat(LengthUnit.INCHES.metres()).isEqualTo(0.0254);
        assertThat(LengthUnit.FEET.metres()).isEqualTo(0.3048);
        assertThat(LengthUnit.ofMetres(0.3048)).contains(LengthUnit.FEET);
        assertThat(LengthUnit.ofMetres(0.5)).isEmpty();
    }

    @Test
    void aStatedUnitIsBelievedUnlessItIsAbsurd() {
        List<ScaleCandidate> plausible = ScaleCandidate.of(new Vec3(1, 2, 1), Optional.of(1.0), Neighbours.NONE);
        assertThat(plausible.getFirst().unit()).isEqualTo("metres");
        assertThat(plausible.getFirst().reason()).startsWith("the file says so");
        List<ScaleCandidate> absurd = ScaleCandidate.of(
                new Vec3(1000, 2000, 1000), Optional.of(1.0), new Neighbours("Posts", List.of(1.8, 2.2)));
        assertThat(absurd.getFirst().unit()).as("2 km between 2 m neighbours").isEqualTo("millimetres");
        List<ScaleCandidate> own = ScaleCandidate.of(new Vec3(1, 2, 1), Optional.of(0.5), Neighbours.NONE);
        assertThat(own.getFirst().factor()).isEqualTo(0.5);
        assertThat(own).hasSize(6).filteredOn(ScaleCandidate::likely).hasSize(1);
    }

    @Test
    void aShelfOfAllSizesTellsNothingAndSaysSo() {
        Neighbours all = new Neighbours("New arrivals", List.of(0.01, 0.4, 13.0));
        assertThat(all.tell()).isFalse();
        ScaleCandidate likely = ScaleCandidate.of(new Vec3(0.5, 1.5, 0.5), Optional.empty(), all)
                .getFirst();
        assertThat(likely.unit()).isEqualTo("metres");
        assertThat(likely.reason())
                .isEqualTo("an ordinary size; others on New arrivals are 0.010 to 13 m tall, which tells nothing");
    }

    @Test
    void theSameThingOnAShelfWinsOverAllElse() {
        Neighbours posts = new Neighbours("Posts", List.of(1.8, 2.2));
        ScaleEvidence drum = new ScaleEvidence(
                Optional.empty(), Optional.empty(), posts, Optional.of(new ScaleEvidence.Twin("Drum", 0.9)));
        ScaleCandidate likely = ScaleCandidate.of(new Vec3(0.6, 0.9, 0.6), drum).getFirst();
        assertThat(likely.factor()).isEqualTo(1);
        assertThat(likely.reason()).isEqualTo("as tall as Drum, which has the same shape");
        ScaleCandidate odd = ScaleCandidate.of(new Vec3(2, 3, 2), drum).getFirst();
        assertThat(odd.size()[1])
                .as("where no unit gives it, the factor that does")
                .isCloseTo(0.9, within(1e-9));
        ScaleEvidence stated = new ScaleEvidence(Optional.of(1.0), Optional.empty(), Neighbours.NONE, drum.twin());
        assertThat(ScaleCandidate.of(new Vec3(2, 3, 2), stated).getFirst().factor())
                .as("a file that says its unit may hold another size")
                .isEqualTo(1);
    }

    @Test
    void filesOfAFormatThatCountsInMillimetresAreReadSoWhereBothArePlausible() {
        ScaleEvidence none = ScaleEvidence.of(Optional.empty(), Neighbours.NONE);
        ScaleEvidence usual = new ScaleEvidence(
                Optional.empty(), Optional.of(LengthUnit.MILLIMETRES), Neighbours.NONE, Optional.empty());
        Vec3 bracket = new Vec3(40, 60, 40);
        assertThat(ScaleCandidate.of(bracket, none).getFirst().unit()).isEqualTo("centimetres");
        assertThat(ScaleCandidate.of(bracket, usual).getFirst().unit()).isEqualTo("millimetres");
        assertThat(ScaleCandidate.of(new Vec3(1, 2, 1), usual).getFirst().unit())
                .as("2 mm are too little for a thing")
                .isEqualTo("metres");
    }

    @Test
    void flatThingsHaveCandidatesToo() {
        assertThat(ScaleCandidate.of(new Vec3(2, 0, 2), Optional.empty(), new Neighbours("Posts", List.of(1.0, 2.0))))
                .hasSize(5);
        assertThat(ScaleCandidate.of(Vec3.ZERO, Optional.empty(), Neighbours.NONE))
                .hasSize(5);
    }

    @Test
    void foldersGiveTheirKnownFilesInOrder() throws IOException {
        Files.createDirectories(folder.resolve("b"));
        Path second = Files.createFile(folder.resolve("b/x.obj"));
        Path first = Files.createFile(folder.resolve("a.glb"));
        Files.createFile(folder.resolve("notes.txt"));
        assertThat(Intake.files(List.of(folder))).containsExactly(first, second);
        Path odd = folder.resolve("notes.txt");
        assertThat(Intake.files(List.of(odd)))
                .as("a file that is named is taken as it is")
                .containsExactly(odd);
    }

    @Test
    void fileNamesBecomeTitles() {
        assertThat(Intake.title(Path.of("radiation_screen-2.obj"))).isEqualTo("Radiation screen 2");
        assertThat(Intake.title(Path.of("_.obj"))).isEqualTo("Unnamed");
    }
}
