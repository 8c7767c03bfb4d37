package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.library.Library;
import pantry.project.Project;
import pantry.project.ProjectInfo;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "project",
        description = {
            "Tell what a folder holds as a project, and say what belongs to it.",
            "Any folder with scenes is one; what is said is kept in its pantry-project.json."
        })
final class ProjectCommand extends PantryCommand<ProjectCommand.Result> {
    @Parameters(paramLabel = "DIR", description = "The project's folder.")
    private Path folder = Path.of("");

    @Option(names = "--name", paramLabel = "N", description = "What it is called.")
    private Optional<String> name = Optional.empty();

    @Option(names = "--library", paramLabel = "L", description = "A library that it uses; may be given again.")
    private List<Path> libraries = new ArrayList<>();

    @Option(
            names = "--search-path",
            paramLabel = "D",
            description = "A folder for asset paths that are not relative to their file; may be given again.")
    private List<Path> searchPaths = new ArrayList<>();

    @Option(
            names = "--leave-out",
            paramLabel = "D",
            description = "A folder whose files are none of the project's; may be given again.")
    private List<Path> leftOut = new ArrayList<>();

    /** @param files its layer files, with paths from its folder */
    record Result(
            String name,
            String folder,
            List<ProjectInfo.LibraryLink> libraries,
            List<String> searchPaths,
            List<String> leaveOut,
            List<String> files) {}

    ProjectCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Project project = Project.open(folder);
        if (name.isPresent() || !libraries.isEmpty() || !searchPaths.isEmpty() || !leftOut.isEmpty()) {
            ProjectInfo info = project.info();
            List<ProjectInfo.LibraryLink> links = new ArrayList<>(info.libraries());
            for (Path each : libraries) {
                Library library = workbench.openLibrary(each);
                links.removeIf(link -> link.id().equals(library.info().id()));
                links.add(new ProjectInfo.LibraryLink(library.info().id(), relative(project, library.root())));
            }
            project = project.with(new ProjectInfo(
                    name.orElse(info.name()),
                    links,
                    with(project, info.searchPaths(), searchPaths),
                    with(project, info.leaveOut(), leftOut)));
        }
        Path root = project.folder();
        return new Result(
                project.name(),
                root.toString(),
                project.info().libraries(),
                project.info().searchPaths(),
                project.info().leaveOut(),
                project.files().stream()
                        .map(file -> root.relativize(file).toString().replace('\\', '/'))
                        .toList());
    }

    private static List<String> with(Project project, List<String> known, List<Path> more) {
        List<String> all = new ArrayList<>(known);
        more.stream()
                .map(each -> relative(project, each))
                .filter(each -> !all.contains(each))
                .forEach(all::add);
        return all;
    }

    private static String relative(Project project, Path path) {
        return project.folder()
                .relativize(path.toAbsolutePath().normalize())
                .toString()
                .replace('\\', '/');
    }

    @Override
    void tell(Result result) {
        result.files().forEach(file -> output.line("%s", file));
        output.line("%s has %s", result.name(), Output.counted(result.files().size(), "file"));
    }
}
