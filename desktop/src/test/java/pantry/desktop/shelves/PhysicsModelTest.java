package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;
import pantry.desktop.shelves.PhysicsModel.Field;
import pantry.model.PhysicalMaterial;
import pantry.usd.SdfPath;

/** What is written of friction, bounce and density, without a window. */
class PhysicsModelTest {
    private static final PhysicalMaterial RUBBER = new PhysicalMaterial(
            Optional.of(SdfPath.of("/Fender/Rubber")),
            OptionalDouble.of(1),
            OptionalDouble.of(0.9),
            OptionalDouble.empty(),
            OptionalDouble.of(1100));

    private static final PhysicalMaterial IRON =
            PhysicalMaterial.UNSAID.at(SdfPath.of("/Fender/Iron")).withDensity(7200);

    private final PhysicsModel model = new PhysicsModel(List.of(RUBBER, IRON));

    private void write(Field field, String text) {
        model.textProperty(field).set(text);
    }

    @Test
    void whatIsSaidStandsThereAndNothingIsToBePublished() {
        assertThat(model.textProperty(Field.STATIC).get()).isEqualTo("1");
        assertThat(model.textProperty(Field.DYNAMIC).get()).isEqualTo("0.9");
        assertThat(model.textProperty(Field.RESTITUTION).get()).isEmpty();
        assertThat(model.textProperty(Field.DENSITY).get()).isEqualTo("1100");
        assertThat(model.wishProperty().get()).isEmpty();
        assertThat(model.problemProperty().get()).isEmpty();
    }

    @Test
    void whatIsWrittenCanBePublishedAndWhatIsEmptiedIsNotSaid() {
        write(Field.RESTITUTION, "0,7");
        write(Field.STATIC, " ");
        PhysicalMaterial wish = model.wishProperty().get().orElseThrow();
        assertThat(wish.path()).isEqualTo(RUBBER.path());
        assertThat(wish.restitution()).hasValue(0.7);
        assertThat(wish.staticFriction()).isEmpty();
        assertThat(wish.words()).isEqualTo("friction 0.9 sliding, bounce 0.7, density 1100 kg/m³");
        // Written back, there is nothing to be published.
        write(Field.RESTITUTION, "");
        write(Field.STATIC, "1.0");
        assertThat(model.wishProperty().get()).isEmpty();
    }

    @Test
    void whatCannotBeSaysWhy() {
        write(Field.DENSITY, "heavy");
        assertThat(model.problemProperty().get()).isEqualTo("density, kg/m³: a number, or nothing");
        assertThat(model.wishProperty().get()).isEmpty();
        write(Field.DENSITY, "1e9");
        assertThat(model.problemProperty().get()).isEqualTo("density is a number from 0 to 25,000 kg/m³");
        for (String wrong : List.of("NaN", "-0.1", "Infinity")) {
            write(Field.DENSITY, wrong);
            assertThat(model.wishProperty().get()).as(wrong).isEmpty();
        }
        write(Field.DENSITY, "1100");
        assertThat(model.problemProperty().get()).isEmpty();
    }

    @Test
    void anotherMaterialFillsTheFieldsAnew() {
        write(Field.DENSITY, "heavy");
        model.chosenProperty().set(IRON);
        assertThat(model.textProperty(Field.DENSITY).get()).isEqualTo("7200");
        assertThat(model.textProperty(Field.DYNAMIC).get()).isEmpty();
        assertThat(model.problemProperty().get()).isEmpty();
        write(Field.DYNAMIC, "0.3");
        assertThat(model.wishProperty().get().orElseThrow().path()).isEqualTo(IRON.path());
    }
}
