package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Terms and words of a search, whatever it is for. */
class TermsTest {
    private static final List<String> NAMES = List.of("behind", "used-by");

    @Test
    void wordsAreWhatIsLeftOfTheTerms() {
        Terms terms = Terms.of("  north behind:>2 -used-by:\"Field One\" mast ", NAMES);
        assertThat(terms.words().split("\\s+")).containsExactly("north", "mast");
        assertThat(terms.terms())
                .containsExactly(new Terms.Term("behind", ">2", false), new Terms.Term("used-by", "field one", true));
        assertThat(Terms.of("other:x mixed-behind:", NAMES).terms()).isEmpty();
        assertThat(Terms.ofWords("behind: stays a word").terms()).isEmpty();
        assertThat(Terms.ofWords("behind: stays").words()).isEqualTo("behind: stays");
    }

    @ParameterizedTest
    @CsvSource({">2,3", ">0,1", "'',1", "2,1", ">x,1", ">999999999,1000000000", ">9999999999,1"})
    void aFigureBehindATermSaysWhereItBegins(String what, int least) {
        assertThat(new Terms.Term("behind", what, false).least()).isEqualTo(least);
    }

    @Test
    void aNameHasAllWordsInAnyOrderAndCase() {
        assertThat(Terms.ofWords("MAST north").isNamed("North field, lattice mast"))
                .isTrue();
        assertThat(Terms.ofWords("mast south").isNamed("North field, lattice mast"))
                .isFalse();
        assertThat(Terms.ofWords("").isNamed("anything")).isTrue();
    }

    @Test
    void allTermsAreFulfilledAndAMinusAsksForTheOthers() {
        Terms terms = Terms.of("behind:>2 -used-by:yard", NAMES);
        Predicate<Integer> wanted = terms.fulfilled(
                Optional.of("known"),
                (term, known) -> number -> term.name().equals("behind") ? number >= term.least() : number == 7);
        assertThat(List.of(1, 3, 5, 7, 9).stream().filter(wanted)).containsExactly(3, 5, 9);
        Predicate<Integer> unknown = terms.fulfilled(Optional.empty(), (term, known) -> number -> true);
        assertThat(List.of(1, 3).stream().filter(unknown))
                .as("nothing is known")
                .isEmpty();
        Predicate<Integer> free = Terms.ofWords("mast").fulfilled(Optional.empty(), (term, known) -> number -> false);
        assertThat(List.of(1, 3).stream().filter(free)).as("nothing is asked").hasSize(2);
    }
}
