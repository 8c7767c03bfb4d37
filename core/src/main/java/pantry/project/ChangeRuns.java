package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.Failures;
import pantry.base.HeldFolder;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.usd.AssetPaths;

/**
 * Makes changes over many files, and takes them back.
 *
 * <p>File by file, each the old one or the new one at every moment. What a file was before is kept beside the index
 * until then, with a note of what it becomes: a run that was killed is taken back by the next, and one that is done can
 * be undone as a whole for as long as it is kept. What was changed by others since is never overwritten.
 */
public final class ChangeRuns {
    /** So many runs can be undone. */
    private static final int KEPT = 50;

    /** Within a folder that is underway, a run that is being undone. */
    private static final String UNDONE = "undone";

    private static final String UNDERWAY = "underway";
    private static final String DONE = "done";
    private static final String ABOUT = "run.json";
    private static final String NOTE = ".json";
    private static final String BEFORE = ".before";

    private final Path folder;
    private final Clock clock;

    /** @param when in the form of ISO 8601 */
    private record About(String title, String when) {}

    /**
     * What a run does to one file.
     *
     * @param before SHA-256 of its contents
     * @param after and of what they become
     * @param moved where it stands then; empty where it stays
     */
    private record Note(String path, String before, String after, String moved) {
        @SuppressWarnings("ConstantValue")
        Note {
            // Those of earlier releases say nothing of it.
            moved = moved == null ? "" : moved;
        }
    }

    /**
     * What was done.
     *
     * @param id by which it is undone
     * @param changed the files
     * @param changes how many places in them
     * @param failed files that stay as they were, and why
     */
    public record Done(String id, List<Path> changed, int changes, Map<Path, String> failed) {}

    /** @param kept files that others have changed since, which stay as they are */
    public record Undone(List<Path> restored, List<Path> kept) {}

    /** A run that can be undone. */
    public record Run(String id, String title, String when) {}

    /** @param folder in which is kept what files were before */
    public ChangeRuns(Path folder, Clock clock) {
        this.folder = folder;
        this.clock = clock;
    }

    /**
     * Takes back what runs that were stopped have left half done; an undoing that was stopped is finished.
     *
     * @return the files that are again what they were
     * @throws PantryException where a file cannot be put back
     */
    public List<Path> recover() {
        List<Path> restored = new ArrayList<>();
        try {
            Files.createDirectories(folder.resolve(UNDERWAY));
            HeldFolder.sweep(folder.resolve(UNDERWAY), left -> {
                if (Files.isDirectory(left)) {
                    restored.addAll(restore(left).restored());
                }
                // Of an undoing that was stopped.
                Path undone = left.resolve(UNDONE);
                if (Files.isDirectory(undone)) {
                    restored.addAll(restore(undone).restored());
                }
            });
            return restored;
        } catch (IOException e) {
            throw new PantryException(folder, "what was half done cannot be taken back: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Makes the changes of a plan. A file that cannot be changed stays as it was, and the others are changed.
     *
     * @param paths how asset paths in a file are resolved
     * @param refused why a file must not be written now; empty where it may
     * @throws CancellationException when cancelled; everything is as it was then
     */
    public Done run(
            ChangePlan plan, Function<Path, AssetPaths> paths, Function<Path, String> refused, Progress progress) {
        return run(plan.title(), AssetRewriter.edits(plan, paths), refused, progress);
    }

    /**
     * As above, of any edits; each file is of one.
     *
     * @throws PantryException where the changes cannot be kept track of
     */
    public Done run(String title, List<FileEdit> files, Function<Path, String> refused, Progress progress) {
        recover();
        String id = UUID.randomUUID().toString();
        try {
            HeldFolder run = HeldFolder.create(() -> folder.resolve(UNDERWAY).resolve(id));
            Done done;
            try {
                AtomicFiles.write(
                        run.path().resolve(ABOUT),
                        Json.write(new About(title, clock.instant().toString())));
                done = change(run.path(), files, refused, progress);
                if (!done.changed().isEmpty()) {
                    Files.createDirectories(folder.resolve(DONE));
                    Files.move(run.path(), folder.resolve(DONE).resolve(id));
                }
            } catch (IOException | RuntimeException | Error stopped) {
                takeBack(run, stopped);
                throw stopped;
            }
            run.close();
            forgetOldest();
            return done;
        } catch (IOException e) {
            throw new PantryException(folder, "the changes cannot be kept track of: " + IoProblems.describe(e), e);
        }
    }

    /** @param run the folder in which is kept what the files were, named by the run's id */
    private static Done change(Path run, List<FileEdit> files, Function<Path, String> refused, Progress progress) {
        AtomicInteger begun = new AtomicInteger();
        List<String> problems = Parallel.map(files, each -> {
            int number = begun.getAndIncrement();
            progress.step("changing " + each.file(), (double) number / files.size());
            return changeOne(run, number, each, refused);
        });
        Map<Path, String> failed = new LinkedHashMap<>();
        List<Path> changed = new ArrayList<>();
        int places = 0;
        for (int i = 0; i < files.size(); i++) {
            if (problems.get(i).isEmpty()) {
                changed.add(files.get(i).file());
                places += files.get(i).places();
            } else {
                failed.put(files.get(i).file(), problems.get(i));
            }
        }
        return new Done(run.getFileName().toString(), changed, places, failed);
    }

    /** Where even that fails, what files were is left where it is, for the next run. */
    private static void takeBack(HeldFolder run, Throwable stopped) throws IOException {
        try {
            restore(run.path());
        } catch (RuntimeException | Error e) {
            stopped.addSuppressed(e);
            run.abandon();
            return;
        }
        run.close();
    }

    /** @return why the file stays as it was; empty where it was changed */
    private static String changeOne(Path run, int number, FileEdit edit, Function<Path, String> refused) {
        Path file = edit.file();
        String refusal = refused.apply(file);
        if (!refusal.isEmpty()) {
            return refusal;
        }
        try {
            // Through a link, what it leads to is changed, and the link stays one.
            Path real = file.toRealPath();
            if (!Files.isWritable(real)) {
                return "is read-only";
            }
            if (edit.moved().isPresent() && Files.exists(edit.moved().get())) {
                return edit.moved().get() + " is there already";
            }
            byte[] before = Files.readAllBytes(real);
            byte[] after = edit.rewrite().of(before);
            if (Arrays.equals(before, after) && edit.moved().isEmpty()) {
                return "is as wanted already";
            }
            String moved = edit.moved().map(Path::toString).orElse("");
            AtomicFiles.write(run.resolve(number + BEFORE), before);
            AtomicFiles.write(
                    run.resolve(number + NOTE),
                    Json.write(new Note(real.toString(), Sha256.of(before), Sha256.of(after), moved)));
            if (edit.moved().isPresent()) {
                move(file, edit.moved().get(), after);
            } else {
                AtomicFiles.write(real, after);
            }
            return "";
        } catch (IOException e) {
            return IoProblems.describe(e);
        } catch (PantryException e) {
            return e.reason();
        }
    }

    /** The new one is there before the old one goes. */
    private static void move(Path file, Path target, byte[] contents) throws IOException {
        Files.createDirectories(target.getParent());
        AtomicFiles.write(target, contents);
        Files.delete(file);
    }

    /** Runs that can be undone, the last first. */
    public List<Run> runs() {
        return folders().stream()
                .map(done -> {
                    About about = Json.read(done.resolve(ABOUT), About.class);
                    return new Run(done.getFileName().toString(), about.title(), about.when());
                })
                .sorted(Comparator.comparing(Run::when).reversed())
                .toList();
    }

    private List<Path> folders() {
        try (Stream<Path> all = Files.list(folder.resolve(DONE))) {
            return all.filter(done -> Files.exists(done.resolve(ABOUT))).toList();
        } catch (NoSuchFileException e) {
            return List.of();
        } catch (IOException e) {
            throw new PantryException(folder, "cannot be looked through: " + IoProblems.describe(e), e);
        }
    }

    private void forgetOldest() throws IOException {
        List<Run> all = runs();
        for (Run old : all.subList(Math.min(KEPT, all.size()), all.size())) {
            AtomicFiles.deleteTree(folder.resolve(DONE).resolve(old.id()));
        }
    }

    /**
     * Gives the files that a run changed their contents back, but for those that were changed since.
     *
     * @throws PantryException where it is not kept any more
     */
    public Undone undo(String id) {
        Path done = folder.resolve(DONE).resolve(id);
        if (!Files.exists(done.resolve(ABOUT))) {
            throw new PantryException("the changes " + id + " are not kept any more");
        }
        recover();
        try {
            Files.createDirectories(folder.resolve(UNDERWAY));
            HeldFolder underway = HeldFolder.create(
                    () -> folder.resolve(UNDERWAY).resolve(UUID.randomUUID().toString()));
            Undone undone;
            try {
                // From here on, whoever comes next finishes it.
                Path moved = underway.path().resolve(UNDONE);
                AtomicFiles.publishFolder(done, moved);
                undone = restore(moved);
            } catch (IOException | RuntimeException | Error e) {
                Failures.cleanUp(e, underway::abandon);
                throw e;
            }
            underway.close();
            return undone;
        } catch (IOException e) {
            throw new PantryException(done, "cannot be undone: " + IoProblems.describe(e), e);
        }
    }

    private static Undone restore(Path run) {
        List<Path> restored = new ArrayList<>();
        List<Path> kept = new ArrayList<>();
        try (Stream<Path> inside = Files.list(run)) {
            for (Path note : inside.filter(
                            file -> file.getFileName().toString().endsWith(NOTE) && !file.endsWith(ABOUT))
                    .sorted()
                    .toList()) {
                Note about = Json.read(note, Note.class);
                Path file = Path.of(about.path());
                Path there = about.moved().isEmpty() ? file : Path.of(about.moved());
                String now = Files.exists(there) ? Sha256.of(there) : "";
                boolean untouched = Files.exists(file) && Sha256.of(file).equals(about.before());
                if (now.equals(about.after()) && (there.equals(file) || untouched || !Files.exists(file))) {
                    if (!untouched) {
                        String name = note.getFileName().toString();
                        Path before = run.resolve(name.substring(0, name.length() - NOTE.length()) + BEFORE);
                        Files.createDirectories(file.getParent());
                        AtomicFiles.write(file, Files.readAllBytes(before));
                    }
                    if (!there.equals(file)) {
                        Files.delete(there);
                    }
                    restored.add(file);
                } else if (!untouched) {
                    kept.add(there);
                }
            }
            return new Undone(restored, kept);
        } catch (IOException e) {
            throw new PantryException(run, "cannot be taken back: " + IoProblems.describe(e), e);
        }
    }
}
