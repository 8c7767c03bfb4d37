package pantry.project;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Stream;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.file.LayerFiles;

/**
 * Gives a file of a project, or a folder with all that is in it, another name or place: what names them names them there, and
 * what they name is named from there.
 */
public final class Moving {
    private final Path from;
    private final Path to;
    private final List<Project> projects;
    private final Map<Path, Integer> users = new TreeMap<>();
    private final Set<Path> moved = new LinkedHashSet<>();

    private Moving(Path from, Path to, List<Project> projects) {
        this.from = from;
        this.to = to;
        this.projects = projects;
    }

    /**
     * Finds out what would be moved and what would be changed for it.
     *
     * @param from a file or folder of one of the projects
     * @param to where nothing may be yet, within one of the projects
     * @throws PantryException where it is not so
     */
    public static Moving plan(Reach reach, List<Project> projects, Path from, Path to) {
        Moving moving = new Moving(
                from.toAbsolutePath().normalize(), to.toAbsolutePath().normalize(), projects);
        moving.check();
        moving.gather(reach);
        return moving;
    }

    private void check() {
        if (!Files.exists(from)) {
            throw new PantryException(from, "is not there");
        }
        for (Path path : List.of(from, to)) {
            if (projects.stream().noneMatch(project -> path.startsWith(project.folder()))
                    || projects.stream().anyMatch(project -> project.folder().startsWith(path))) {
                throw new PantryException(path, "is not within one of the projects");
            }
        }
        if (Files.exists(to)) {
            throw new PantryException(to, "is there already");
        }
        if (to.startsWith(from)) {
            throw new PantryException(to, "is within what would be moved");
        }
        boolean layer = LayerFiles.isLayer(from.toString());
        if (Files.isRegularFile(from) && !Names.ending(from.toString()).equalsIgnoreCase(Names.ending(to.toString()))) {
            throw new PantryException(
                    to, layer ? "has another ending; convert it to change the format" : "has another ending");
        }
    }

    private void gather(Reach reach) {
        try (Stream<Path> all = Files.walk(from)) {
            all.filter(Files::isRegularFile).sorted().forEach(moved::add);
        } catch (java.io.IOException e) {
            throw new PantryException(from, "cannot be looked through: " + IoProblems.describe(e), e);
        }
        for (UseIndex.Named named : reach.named()) {
            if (named.target().startsWith(from) && !moved.contains(named.file())) {
                users.merge(named.file(), Math.max(1, named.places().size()), Integer::sum);
            }
        }
    }

    /** The files that would stand elsewhere. */
    public Set<Path> moved() {
        return Set.copyOf(moved);
    }

    /** The other files that name them, and in how many places. */
    public Map<Path, Integer> users() {
        return Map.copyOf(users);
    }

    /**
     * Moves, or leaves all as it is.
     *
     * @param refused why a file must not be written now; empty where it may
     * @throws PantryException where a file cannot be changed; all is then as it was
     */
    public ChangeRuns.Done run(ChangeRuns runs, Function<Path, String> refused, Progress progress) {
        List<FileEdit> edits = new ArrayList<>();
        moved.forEach(file ->
                edits.add(new FileEdit(file, 1, java.util.Optional.of(then(file)), before -> rewritten(file, before))));
        users.forEach((file, places) -> edits.add(new FileEdit(file, places, before -> rewritten(file, before))));
        for (FileEdit edit : edits) {
            String refusal = refused.apply(edit.file());
            if (!refusal.isEmpty()) {
                throw new PantryException(edit.file(), refusal);
            }
        }
        ChangeRuns.Done done = runs.run("Moved " + from.getFileName() + " to " + to, edits, refused, progress);
        if (!done.failed().isEmpty()) {
            if (!done.changed().isEmpty()) {
                runs.undo(done.id());
            }
            Map.Entry<Path, String> first = done.failed().entrySet().iterator().next();
            throw new PantryException(first.getKey(), first.getValue() + "; nothing was moved");
        }
        removeEmptyFolders();
        return done;
    }

    private void removeEmptyFolders() {
        if (!Files.isDirectory(from)) {
            return;
        }
        try (Stream<Path> all = Files.walk(from)) {
            all.filter(Files::isDirectory)
                    .sorted(java.util.Comparator.reverseOrder())
                    .forEach(folder -> folder.toFile().delete());
        } catch (java.io.IOException e) {
            // An empty folder that stays harms nobody.
            return;
        }
    }

    private Path then(Path file) {
        return file.equals(from) ? to : file.startsWith(from) ? to.resolve(from.relativize(file)) : file;
    }

    private byte[] rewritten(Path file, byte[] before) {
        if (!LayerFiles.isLayer(file.toString())
                || Names.ending(file.toString()).equals("usdz")) {
            return before;
        }
        Layer anchor = new Layer(file);
        Layer after = new Layer(then(file));
        AssetPaths paths = Project.assetPaths(projects, file);
        return AssetRewriter.renamed(file, before, written -> {
            if (written.isEmpty() || FileGate.isRemote(written)) {
                return written;
            }
            AssetLocation now = paths.resolve(anchor, written);
            AssetLocation then = new AssetLocation(then(now.file()), now.inside());
            boolean same = then.equals(Project.assetPaths(projects, then(file)).resolve(after, written));
            return same ? written : AssetPaths.relative(then(file).getParent(), then);
        });
    }
}
