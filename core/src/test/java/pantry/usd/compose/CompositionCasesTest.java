package pantry.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The cases of {@code src/test/resources/pantry/usd/cases}. */
class CompositionCasesTest {
    static List<CompositionCase> all() throws IOException {
        return CompositionCase.all();
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("all")
    void composesToWhatTheSpecificationSays(CompositionCase one) {
        Stage stage = one.stage();
        assertThat(one.flattened(stage)).isEqualTo(one.expected());
        List<String> problems = stage.problems().stream()
                .map(problem -> problem.kind().name())
                .distinct()
                .toList();
        assertThat(problems).isEqualTo(one.option("problems").stream().toList());
    }
}
