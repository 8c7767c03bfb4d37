package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.UseIndex;
import pantry.workbench.Workbench;
import picocli.CommandLine.Option;

/**
 * A command about the files of projects and the libraries that they use. What was changed since the last one is read first.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class ReachCommand<R> extends PantryCommand<R> {
    @Option(
            names = "--library",
            required = true,
            paramLabel = "L",
            description = "A library that the projects use; may be given again.")
    private List<Path> libraryFolders = new ArrayList<>();

    @Option(
            names = "--project",
            required = true,
            paramLabel = "P",
            description = "A project's folder; may be given again.")
    private List<Path> projectFolders = new ArrayList<>();

    private @Nullable List<Library> opened;

    ReachCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    /** An asset that a person names, with a version where they name one. */
    record Named(Asset asset, java.util.Optional<String> version) {}

    List<Library> libraries() {
        List<Library> known = opened;
        if (known == null) {
            known = openLibraries(workbench, libraryFolders);
            opened = known;
        }
        return known;
    }

    static List<Library> openLibraries(Workbench workbench, List<Path> folders) {
        List<Library> libraries = new ArrayList<>();
        Set<String> ids = new LinkedHashSet<>();
        for (Path folder : folders) {
            Library library = workbench.openLibrary(folder);
            if (!ids.add(library.info().id())) {
                throw new LibraryException(
                        library.root(), "has the same id as another library that is given: it is a copy of that one");
            }
            libraries.add(library);
        }
        return libraries;
    }

    List<Project> projects() {
        return projectFolders.stream().map(Project::open).toList();
    }

    Reach reach() {
        return reach(workbench, libraries(), projects(), output);
    }

    /** What the projects use, after what was changed since the last time was read. */
    static Reach reach(Workbench workbench, List<Library> libraries, List<Project> projects, Output output) {
        UseIndex index = workbench.useIndex();
        index.refresh(projects, libraries, output.progress());
        Reach reach = new Reach(index, libraries, projects);
        reach.unreadable().forEach(each -> output.say("pantry: left out " + each.problem()));
        return reach;
    }

    /**
     * The asset that is named by id, by shelf and name or by name alone, with {@code @v002} behind it for one version.
     *
     * @throws LibraryException where no library has it, or no such version
     */
    Named named(String text) {
        int at = text.lastIndexOf('@');
        boolean versioned = at > 0 && text.substring(at + 1).matches("v\\d{3,9}");
        String name = versioned ? text.substring(0, at) : text;
        Asset asset = asset(name);
        if (!versioned) {
            return new Named(asset, java.util.Optional.empty());
        }
        String version = text.substring(at + 1);
        if (!asset.versions().contains(version)) {
            throw new LibraryException(asset.folder(), "has no version " + version);
        }
        return new Named(asset, java.util.Optional.of(version));
    }

    Asset asset(String name) {
        @Nullable LibraryException last = null;
        for (Library library : libraries()) {
            try {
                return library.find(name);
            } catch (LibraryException e) {
                last = e;
            }
        }
        throw last == null ? new LibraryException(Path.of("."), "no library is given") : last;
    }
}
