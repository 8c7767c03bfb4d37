package pantry.project;

import java.util.List;

/**
 * What a project's own file says; all of it may be left out.
 *
 * @param name empty where the folder's name does
 * @param libraries what its scenes take assets from
 * @param searchPaths folders in which asset paths are looked for that are not relative to their file; relative to the
 *     project's folder
 * @param leaveOut folders whose files are none of the project's; relative to its folder
 */
public record ProjectInfo(String name, List<LibraryLink> libraries, List<String> searchPaths, List<String> leaveOut) {
    /** Of a project without a file of its own. */
    public static final ProjectInfo NONE = new ProjectInfo("", List.of(), List.of(), List.of());

    /**
     * A library that a project uses.
     *
     * @param id by which it is known wherever it stands
     * @param path its folder, relative to the project's
     */
    public record LibraryLink(String id, String path) {}

    @SuppressWarnings("ConstantValue")
    public ProjectInfo {
        // A file written by hand may leave out any of them.
        name = name == null ? "" : name;
        libraries = libraries == null ? List.of() : List.copyOf(libraries);
        searchPaths = searchPaths == null ? List.of() : List.copyOf(searchPaths);
        leaveOut = leaveOut == null ? List.of() : List.copyOf(leaveOut);
    }
}
