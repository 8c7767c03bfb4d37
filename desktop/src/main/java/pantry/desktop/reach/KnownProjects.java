package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.UseIndex;

/**
 * What is known of the projects at a moment.
 *
 * @param reach empty where no project is open, or nothing was read yet
 */
public record KnownProjects(
        Optional<Reach> reach,
        List<ProjectFiles> projects,
        Map<Path, Reach.Waiting> waiting,
        Map<Path, UseIndex.Total> totals,
        List<UseIndex.Unreadable> unreadable) {
    static final KnownProjects NOTHING = new KnownProjects(Optional.empty(), List.of(), Map.of(), Map.of(), List.of());

    /** A project with its files. */
    public record ProjectFiles(Project project, List<Path> files) {}
}
