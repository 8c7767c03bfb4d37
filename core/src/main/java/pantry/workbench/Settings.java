package pantry.workbench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;

/**
 * What a user has set.
 *
 * @param editor the program that edited copies are opened in, a command with its options; empty for none
 * @param copyFormat the ending of the file that is unpacked for it
 * @param handOutFormat the ending of files that are dragged out
 * @param libraries the folders of the libraries that are open
 * @param copies the folders of the copies that are being edited
 * @param projects the folders of the projects that are open
 * @param allowed folders in which scenes may name files, although they lie outside of their projects and of libraries
 * @param window as it was when it was closed last; nothing before that
 * @param table the columns of the table of assets, in their order; empty where none was changed
 * @param target the folder of the library that things are put into; empty for the first that can be written
 */
public record Settings(
        String editor,
        String copyFormat,
        String handOutFormat,
        List<String> libraries,
        List<String> copies,
        List<String> allowed,
        List<String> projects,
        Optional<WindowState> window,
        List<ColumnState> table,
        String target) {
    private static final String USUAL_FORMAT = "glb";

    public static final Settings USUAL = new Settings(
            "",
            USUAL_FORMAT,
            USUAL_FORMAT,
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            Optional.empty(),
            List.of(),
            "");

    public Settings {
        editor = editor == null ? "" : editor;
        copyFormat = copyFormat == null ? USUAL_FORMAT : copyFormat;
        handOutFormat = handOutFormat == null ? USUAL_FORMAT : handOutFormat;
        libraries = libraries == null ? List.of() : List.copyOf(libraries);
        copies = copies == null ? List.of() : List.copyOf(copies);
        allowed = allowed == null ? List.of() : List.copyOf(allowed);
        projects = projects == null ? List.of() : List.copyOf(projects);
        window = window == null ? Optional.empty() : window;
        table = table == null ? List.of() : List.copyOf(table);
        target = target == null ? "" : target;
    }

    /**
     * How the application's window is shown.
     *
     * @param width of what is not maximized, pixels
     * @param height of what is not maximized, pixels
     * @param textSize pixels; others than those there are become the nearest
     */
    public record WindowState(double width, double height, boolean maximized, boolean night, double textSize) {}

    /**
     * How a column of a table is shown.
     *
     * @param title what stands above it
     * @param width pixels
     */
    public record ColumnState(String title, double width, boolean visible) {}

    /** With one more folder in which scenes may name files. */
    public Settings withAllowed(String folder) {
        List<String> more = new ArrayList<>(allowed);
        if (!more.contains(folder)) {
            more.add(folder);
        }
        return new Settings(
                editor, copyFormat, handOutFormat, libraries, copies, more, projects, window, table, target);
    }

    public Settings withEditor(String command) {
        return new Settings(
                command, copyFormat, handOutFormat, libraries, copies, allowed, projects, window, table, target);
    }

    public Settings withCopyFormat(String ending) {
        return new Settings(editor, ending, handOutFormat, libraries, copies, allowed, projects, window, table, target);
    }

    public Settings withHandOutFormat(String ending) {
        return new Settings(editor, copyFormat, ending, libraries, copies, allowed, projects, window, table, target);
    }

    public Settings withLibraries(List<String> folders) {
        return new Settings(
                editor, copyFormat, handOutFormat, folders, copies, allowed, projects, window, table, target);
    }

    public Settings withCopies(List<String> folders) {
        return new Settings(
                editor, copyFormat, handOutFormat, libraries, folders, allowed, projects, window, table, target);
    }

    public Settings withProjects(List<String> folders) {
        return new Settings(
                editor, copyFormat, handOutFormat, libraries, copies, allowed, folders, window, table, target);
    }

    public Settings withWindow(WindowState state) {
        return new Settings(
                editor,
                copyFormat,
                handOutFormat,
                libraries,
                copies,
                allowed,
                projects,
                Optional.of(state),
                table,
                target);
    }

    public Settings withTable(List<ColumnState> columns) {
        return new Settings(
                editor, copyFormat, handOutFormat, libraries, copies, allowed, projects, window, columns, target);
    }

    public Settings withTarget(String folder) {
        return new Settings(
                editor, copyFormat, handOutFormat, libraries, copies, allowed, projects, window, table, folder);
    }

    /** Those in a file; the usual ones where there is none, or none that can be understood. */
    static Settings read(Path file) {
        try {
            return Files.exists(file) ? Json.read(file, Settings.class) : USUAL;
        } catch (PantryException e) {
            return USUAL;
        }
    }

    void write(Path file) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            AtomicFiles.write(file, Json.write(this));
        } catch (IOException e) {
            throw new PantryException(file, "the settings cannot be kept: " + IoProblems.describe(e), e);
        }
    }
}
