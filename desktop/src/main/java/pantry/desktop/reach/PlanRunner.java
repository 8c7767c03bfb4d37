package pantry.desktop.reach;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.Function;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.MovedFile;
import pantry.desktop.session.Session;
import pantry.desktop.session.UndoableWork;
import pantry.desktop.session.Units;
import pantry.desktop.session.Work;
import pantry.library.Archive;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.project.AssetTwins;
import pantry.project.CarryOver;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.ChangeRuns;
import pantry.project.FileEdit;
import pantry.project.HandOver;
import pantry.project.Imagined;
import pantry.project.Leftovers;
import pantry.project.Moving;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.Strays;
import pantry.project.Swapping;
import pantry.project.WhatIf;
import pantry.usd.AssetPaths;
import pantry.usecase.MergeAssets;

/** Does what was planned; one line in the ledger takes all of it back. */
final class PlanRunner {
    private final Session session;
    private final Runnable refresh;

    /** As the interface told it last; what is done again asks for it again, in the background. */
    private volatile Set<Path> unsaved;

    /** @param refresh reads what was changed */
    PlanRunner(Session session, Runnable refresh) {
        this.session = session;
        this.refresh = refresh;
        this.unsaved = session.unsavedProperty().get();
        session.unsavedProperty().addListener((property, before, now) -> unsaved = now);
    }

    /**
     * Makes the changes of a plan, and makes a version ready where it was asked what that would do.
     *
     * @param ticked those of its changes that are wanted
     * @param moved by how much what is swapped is moved, metres
     */
    void run(Planned planned, ChangePlan ticked, List<Project> projects, Optional<Vec3> moved) {
        Optional<WhatIf.Ripple> ripple =
                planned.ripple().filter(each -> each.change().kind() == Imagined.Kind.READY);
        if (ripple.isPresent()) {
            makeReady(ripple.get(), ticked);
        } else if (!ticked.changes().isEmpty()) {
            change(planned, ticked, projects, moved);
        }
    }

    private void change(Planned planned, ChangePlan plan, List<Project> projects, Optional<Vec3> moved) {
        ChangeRuns runs = session.workbench().changeRuns();
        Function<Path, String> refused = refused();
        changing("changing " + Units.counted(plan.byFile().size(), "file"), progress -> {
                    Function<Path, AssetPaths> paths = file -> Project.assetPaths(projects, file);
                    Optional<List<FileEdit>> edits = moved.map(
                                    by -> Swapping.edits(plan, Matrix4.translation(by), paths))
                            .or(() -> edits(planned, plan));
                    return edits.isPresent()
                            ? runs.run(plan.title(), edits.get(), refused, progress)
                            : runs.run(plan, paths, refused, progress);
                })
                .start(session, done -> done.changed().isEmpty() ? "" : told(plan.title(), done));
    }

    /** Work that changes files, which is taken back as a whole. */
    private UndoableWork<ChangeRuns.Done> changing(String doing, Work<ChangeRuns.Done> work) {
        return new UndoableWork<>(doing, session::run, work, (done, progress) -> takeBack(done, () -> {}))
                .after(this::changed)
                .afterUndo(done -> {});
    }

    /**
     * Takes changes of files back, in the background, and shows that on the interface's thread.
     *
     * @param first is done there before the files are looked at anew
     */
    private void takeBack(ChangeRuns.Done done, Runnable first) {
        ChangeRuns.Undone undone = session.workbench().changeRuns().undo(done.id());
        session.onInterface(() -> {
            first.run();
            tookBack(undone);
        });
    }

    /** What is done to files where more is changed than what they name. */
    private static Optional<List<FileEdit>> edits(Planned planned, ChangePlan ticked) {
        if (!planned.copies().isEmpty()) {
            return Optional.of(Strays.placing(ticked(planned.copies(), ticked)));
        }
        if (!planned.leftovers().isEmpty()) {
            Set<Change> wanted = Set.copyOf(ticked.changes());
            return Optional.of(Leftovers.edits(planned.leftovers().stream()
                    .filter(each -> wanted.contains(each.change()))
                    .toList()));
        }
        return Optional.empty();
    }

    private static String told(String title, ChangeRuns.Done done) {
        return title + ": " + Units.counted(done.changes(), "place") + " in "
                + Units.counted(done.changed().size(), "file");
    }

    /** Why a file must not be written now. */
    private Function<Path, String> refused() {
        return file -> unsaved.contains(file) ? "is open with changes that are not saved; save it first" : "";
    }

    private void changed(ChangeRuns.Done done) {
        done.failed().forEach((file, reason) -> session.wrong(new PantryException(file, reason)));
        rewrote(done.changed());
    }

    private static List<Strays.Group> ticked(List<Strays.Group> groups, ChangePlan plan) {
        Set<Change> wanted = Set.copyOf(plan.changes());
        return groups.stream()
                .map(group -> group.keeping(copy -> wanted.contains(Planning.change(group, copy))))
                .filter(group -> !group.copies().isEmpty())
                .toList();
    }

    /**
     * Hands over what is planned.
     *
     * @param parent the folder in which one of its own is made
     */
    void handOver(HandOver handOver, List<Project> projects, Path parent) {
        String stem = projects.size() == 1 ? Names.slug(projects.getFirst().name()) : "hand-over";
        String day = LocalDate.now(session.workbench().clock()).toString();
        Path folder = parent.resolve(Names.free(stem + "-" + day, name -> Files.exists(parent.resolve(name))));
        session.run(
                "handing over " + Units.counted(handOver.scenes().size(), "scene"),
                progress -> handOver.write(folder, session.workbench().clock(), progress),
                written -> session.told(
                        "handed over " + Units.counted(written.scenes().size(), "scene") + " in " + written.folder()));
    }

    /** An asset that goes to the archive, or one version of it. */
    private record Archived(Library library, Asset asset, Optional<String> version) {
        void put(Library archive, Progress progress) {
            Archive between = new Archive(library, archive);
            if (version.isPresent()) {
                between.putVersion(asset, version.get(), progress);
            } else {
                between.put(asset, progress);
            }
        }

        void callBack(Library archive, Progress progress) {
            Archive between = new Archive(library, archive);
            if (version.isPresent()) {
                between.callBackVersion(asset, version.get(), progress);
            } else {
                archive.byId(asset.card().id()).ifPresent(there -> between.callBack(there, progress));
            }
        }
    }

    /**
     * Takes assets and versions to an archive, which is opened as a library.
     *
     * @param ticked those of the plan's lines that are wanted
     */
    void archive(Planned planned, ChangePlan ticked, Path folder) {
        Set<Change> wanted = Set.copyOf(ticked.changes());
        List<Archived> all = new ArrayList<>();
        for (Library library : session.shelving().present()) {
            planned.unused().stream()
                    .filter(unused -> wanted.contains(Planning.change(library, unused)))
                    .forEach(unused -> all.add(new Archived(library, unused.asset(), Optional.empty())));
            planned.unusedVersions().stream()
                    .filter(unused -> wanted.contains(Planning.change(library, unused)))
                    .forEach(unused -> all.add(new Archived(library, unused.asset(), Optional.of(unused.version()))));
        }
        List<Archived> moved = new ArrayList<>();
        UndoableWork<List<Archived>> work = new UndoableWork<>(
                "archiving " + told(all),
                session::run,
                progress -> {
                    moved.clear();
                    Library archive = session.workbench().openLibrary(folder);
                    try {
                        for (Archived each : all) {
                            each.put(archive, progress);
                            moved.add(each);
                        }
                    } catch (CancellationException e) {
                        callBack(moved, archive, Progress.NONE);
                        throw e;
                    }
                    return List.copyOf(moved);
                },
                (done, progress) -> callBack(done, session.workbench().openLibrary(folder), progress));
        work.after(done -> shelvesChanged(all)).failed(problem -> {
            if (!moved.isEmpty()) {
                List<Archived> some = List.copyOf(moved);
                session.done("archived " + told(some) + " in " + folder, work.done(session, some));
            }
            shelvesChanged(all);
        });
        work.start(session, done -> "archived " + told(done) + " in " + folder);
    }

    private static void callBack(List<Archived> some, Library archive, Progress progress) {
        some.reversed().forEach(each -> each.callBack(archive, progress));
    }

    private static String told(List<Archived> all) {
        long versions = all.stream().filter(each -> each.version().isPresent()).count();
        long assets = all.size() - versions;
        return versions == 0
                ? Units.counted(assets, "asset")
                : (assets == 0 ? "" : Units.counted(assets, "asset") + " and ") + Units.counted(versions, "version");
    }

    /**
     * Merges assets that are the same thing.
     *
     * @param ticked those of the plan's lines that are wanted
     */
    void merge(Reach reach, List<Project> projects, Planned planned, ChangePlan ticked) {
        Set<Change> wanted = Set.copyOf(ticked.changes());
        List<AssetTwins.Pair> pairs = planned.pairs().stream()
                .filter(Planning::isMergeable)
                .filter(pair -> wanted.contains(Planning.change(reach, pair)))
                .toList();
        MergeAssets merging = new MergeAssets(reach, session.workbench().changeRuns());
        Function<Path, String> refused = refused();
        new UndoableWork<>(
                        "merging " + Units.counted(pairs.size(), "asset"),
                        session::run,
                        progress -> merging.run(pairs, file -> Project.assetPaths(projects, file), refused, progress),
                        (result, progress) -> {
                            ChangeRuns.Undone undone = merging.takeBack(result);
                            session.onInterface(() -> {
                                merged(result);
                                tookBack(undone);
                            });
                        })
                .after(result -> {
                    merged(result);
                    changed(result.files());
                })
                .afterUndo(result -> {})
                .start(
                        session,
                        result -> "merged " + Units.counted(pairs.size(), "asset") + " with "
                                + (pairs.size() == 1 ? "its like" : "their like") + ": "
                                + Units.counted(result.files().changes(), "place") + " in "
                                + Units.counted(result.files().changed().size(), "file"));
    }

    private void merged(MergeAssets.Result result) {
        result.merged().stream().map(MergeAssets.InLibrary::library).distinct().forEach(session.shelving()::refresh);
    }

    private void shelvesChanged(List<Archived> all) {
        all.stream().map(Archived::library).distinct().forEach(session.shelving()::refresh);
        refresh.run();
    }

    /** Moves a file with all that refers to it, or nothing. */
    void move(Reach reach, List<Project> projects, Path from, Path to) {
        Function<Path, String> refused = refused();
        MovedFile moved = new MovedFile(from, to);
        new UndoableWork<>(
                        "moving " + from.getFileName(),
                        session::run,
                        progress -> Moving.plan(reach, projects, from, to)
                                .run(session.workbench().changeRuns(), refused, progress),
                        (done, progress) -> takeBack(done, () -> tellMoved(moved.back())))
                .after(done -> {
                    tellMoved(moved);
                    done.failed().forEach((file, reason) -> session.wrong(new PantryException(file, reason)));
                    rewrote(done.changed().stream()
                            .filter(file -> moved.now(file).isEmpty())
                            .toList());
                })
                .afterUndo(done -> {})
                .start(session, done -> {
                    int others = done.changed().size() - 1;
                    return "moved " + from.getFileName() + " to " + to
                            + (others == 0
                                    ? ""
                                    : "; " + Units.counted(others, "file")
                                            + (others == 1 ? " names it there" : " name it there"));
                });
    }

    private void tellMoved(MovedFile moved) {
        // Twice the same move are two events.
        session.movedProperty().set(Optional.empty());
        session.movedProperty().set(Optional.of(moved));
    }

    private void makeReady(WhatIf.Ripple ripple, ChangePlan ticked) {
        Asset asset = ripple.asset();
        if (asset.ready().equals(Optional.of(ripple.version()))) {
            return;
        }
        Library library = session.shelving().present().stream()
                .filter(each -> asset.folder().startsWith(each.root()))
                .findFirst()
                .orElseThrow(() -> new PantryException(asset.folder(), "is of no library that is open"));
        VersionStatus before = asset.status(ripple.version());
        String told = asset.card().name() + " " + ripple.version();
        Set<Change> wanted = Set.copyOf(ticked.changes());
        List<FileEdit> edits = CarryOver.edits(ripple.effects().stream()
                .flatMap(effect -> effect.lost().stream())
                .filter(lost -> CarryOver.isPossible(lost) && wanted.contains(CarryOver.change(lost)))
                .toList());
        ChangeRuns runs = session.workbench().changeRuns();
        Function<Path, String> refused = refused();
        new UndoableWork<ChangeRuns.Done>(
                        "making " + told + " ready",
                        session.shelving().changing(Libraries.Touched.shelf(library, asset.shelf())),
                        progress -> {
                            library.setStatus(asset, ripple.version(), VersionStatus.READY);
                            return edits.isEmpty()
                                    ? new ChangeRuns.Done("", List.of(), 0, Map.of())
                                    : runs.run("Carried overrides over to " + told, edits, refused, progress);
                        },
                        (done, progress) -> {
                            if (!done.changed().isEmpty()) {
                                takeBack(done, () -> {});
                            }
                            library.setStatus(asset, ripple.version(), before);
                        })
                .after(this::changed)
                .afterUndo(done -> refresh.run())
                .start(
                        session,
                        done -> "made " + told + " ready"
                                + (done.changes() == 0
                                        ? ""
                                        : ", and carried over " + Units.counted(done.changes(), "override")));
    }

    private void tookBack(ChangeRuns.Undone undone) {
        undone.kept()
                .forEach(file -> session.wrong(new PantryException(file, "was changed since, and stays as it is")));
        rewrote(undone.restored());
    }

    private void rewrote(List<Path> files) {
        // Twice the same files are two events.
        session.rewrittenProperty().set(Set.of());
        session.rewrittenProperty().set(Set.copyOf(files));
        refresh.run();
    }
}
