package pantry.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.model.Model;

/** What a librarian would ask of the demo's models. */
class RecipesTest {
    @TempDir
    private Path folder;

    private final List<Recipe> recipes = new ArrayList<>();

    @BeforeEach
    void make() throws IOException {
        Paints paints = new Paints(folder);
        recipes.addAll(new StationAssets(paints).recipes());
        recipes.addAll(FieldAssets.recipes());
        recipes.addAll(LivingAssets.recipes());
        recipes.addAll(new CampAssets(paints).recipes());
    }

    @Test
    void namesAreDifferentAndPlain() {
        assertThat(recipes).hasSizeGreaterThan(60);
        assertThat(recipes.stream().map(recipe -> recipe.model().name().toLowerCase(Locale.ROOT)))
                .doesNotHaveDuplicates();
        assertThat(recipes).allSatisfy(recipe -> {
            assertThat(Names.title(recipe.model().name()))
                    .isEqualTo(recipe.model().name());
            assertThat(recipe.tags()).isNotEmpty();
            assertThat(recipe.shelf()).isNotBlank();
        });
    }

    @Test
    void everythingHasASizeThatSuchAThingHasAndStandsOnTheGround() {
        for (Recipe recipe : recipes) {
            List<Model> states = new ArrayList<>(List.of(recipe.model()));
            recipe.later().forEach(later -> states.add(later.model()));
            for (Model model : states) {
                Box3 box = model.bounds();
                assertThat(box.size().y()).as(model.name()).isBetween(0.02, 12.0);
                assertThat(Math.max(box.size().x(), box.size().z()))
                        .as(model.name())
                        .isBetween(0.02, 20.0);
                assertThat(box.min().y())
                        .as(model.name() + " stands on the ground")
                        .isCloseTo(0, within(0.12));
                assertThat(model.trianglesDrawn()).as(model.name()).isBetween(12L, 40_000L);
                assertThat(model.objects()).as(model.name()).isPositive();
            }
        }
    }

    @Test
    void laterVersionsSayWhatIsNewInThem() {
        assertThat(recipes.stream().filter(recipe -> !recipe.later().isEmpty())).hasSizeGreaterThanOrEqualTo(4);
        assertThat(recipes).allSatisfy(recipe -> assertThat(recipe.later()).allSatisfy(later -> {
            assertThat(later.note()).isNotBlank();
            assertThat(later.model().name()).isEqualTo(recipe.model().name());
        }));
    }

    @Test
    void someCanBeHadInOtherPaints() {
        List<Model> painted = recipes.stream()
                .map(Recipe::model)
                .filter(model -> !model.looks().isEmpty())
                .toList();
        assertThat(painted).extracting(Model::name).contains("Chair", "Mess table", "Gas bottle");
        assertThat(painted).allSatisfy(model -> assertThat(model.looks()).hasSizeLessThanOrEqualTo(3));
    }
}
