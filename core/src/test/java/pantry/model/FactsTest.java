package pantry.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class FactsTest {
    private static Facts told(String... kinds) {
        return Facts.of(
                "mast.glb", new Model("Mast", List.of(), new Model.Extras(List.of(), 0, List.of(kinds))), 1, "Y");
    }

    @Test
    void whatIsNotUnderstoodIsNamedAndTheRestCounted() {
        assertThat(told().besides(2)).isEmpty();
        assertThat(told("2 animations", "1 audio clip").besides(2)).contains("2 animations; 1 audio clip");
        assertThat(told("2 animations", "1 audio clip", "3 notes", "1 script").besides(2))
                .contains("2 animations; 1 audio clip; and 2 more");
    }
}
