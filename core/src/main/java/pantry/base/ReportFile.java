package pantry.base;

import java.io.IOException;
import java.nio.file.Path;
import java.util.function.Supplier;

/** Files of reports, whose ending tells what they hold. */
public final class ReportFile {
    private ReportFile() {}

    /**
     * Writes a report as a table or as a page.
     *
     * @param file ends in .csv, .html or .htm
     * @throws PantryException where it ends in something else, or cannot be written
     */
    public static void write(Path file, Supplier<String> table, Supplier<String> page) {
        String text =
                switch (Names.ending(String.valueOf(file.getFileName()))) {
                    case "csv" -> table.get();
                    case "html", "htm" -> page.get();
                    default -> throw new PantryException(file, "a report ends in .csv or .html");
                };
        try {
            AtomicFiles.write(file, text);
        } catch (IOException e) {
            throw new PantryException(file, "the report cannot be written: " + IoProblems.describe(e), e);
        }
    }
}
