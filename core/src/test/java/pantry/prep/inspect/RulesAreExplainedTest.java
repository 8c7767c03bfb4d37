package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;

@DisplayName("docs/prep.md")
class RulesAreExplainedTest {
    @Test
    @DisplayName("explains each rule as the program does, with all its limits")
    void eachRule() throws Exception {
        String text = Files.readString(Path.of("../docs/prep.md"));
        for (Rule rule : Rules.ALL) {
            String line = text.lines()
                    .filter(each -> each.startsWith("| `" + rule.id() + "` |"))
                    .findFirst()
                    .orElse("");
            assertThat(line)
                    .as(rule.id())
                    .contains(rule.title(), rule.why(), rule.severity().word());
            rule.limits().forEach(limit -> assertThat(line).contains("`" + limit.name() + "`", limit.meaning()));
        }
    }
}
