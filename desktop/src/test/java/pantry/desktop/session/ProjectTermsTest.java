package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import org.junit.jupiter.api.Test;

class ProjectTermsTest {
    @Test
    void termsAreTakenOutOfTheTextAndTheRestIsLeft() {
        ProjectTerms terms = ProjectTerms.of("mast used-by:\"Field One\" tag:old -unused: behind:>2 \"used by\"");
        assertThat(terms.rest().replaceAll("\\s+", " ")).isEqualTo("mast tag:old \"used by\"");
        assertThat(terms.terms())
                .containsExactly(
                        new Terms.Term("used-by", "field one", false),
                        new Terms.Term("unused", "", true),
                        new Terms.Term("behind", ">2", false));
    }

    @Test
    void wordsThatOnlyLookLikeItAreLeft() {
        assertThat(ProjectTerms.of("reused-by:x uses:mast").terms()).isEmpty();
        assertThat(ProjectTerms.of("USED-BY:Yard").terms()).containsExactly(new Terms.Term("used-by", "yard", false));
        assertThat(ProjectTerms.of("used-by:\"half").terms())
                .as("still being typed")
                .containsExactly(new Terms.Term("used-by", "half", false));
    }

    @Test
    void withoutAnOpenProjectItIsSaidSo() {
        assertThat(ProjectTerms.of("unused:").complaint(Optional.empty()))
                .hasValueSatisfying(said -> assertThat(said).contains("none is open"));
        assertThat(ProjectTerms.of("mast").complaint(Optional.empty())).isEmpty();
    }
}
