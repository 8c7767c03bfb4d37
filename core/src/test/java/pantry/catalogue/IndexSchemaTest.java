package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class IndexSchemaTest {
    /** An index of an older schema is migrated only where the newest one is known to be newer. */
    @Test
    void theNewestMigrationIsKnown() throws IOException {
        try (Stream<Path> files = Files.list(Path.of("src/main/resources/pantry/catalogue/schema"))) {
            int newest = files.map(file -> file.getFileName().toString())
                    .mapToInt(name -> Integer.parseInt(name.substring(1, name.indexOf("__"))))
                    .max()
                    .orElseThrow();
            assertThat(IndexDatabase.SCHEMA).isEqualTo(String.valueOf(newest));
        }
    }
}
