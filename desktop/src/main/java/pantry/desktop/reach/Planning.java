package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.Progress;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.project.AssetTwins;
import pantry.project.CarryOver;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.HandOver;
import pantry.project.Imagined;
import pantry.project.Leftovers;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.Relinking;
import pantry.project.Strays;
import pantry.project.Updates;
import pantry.project.WhatIf;

/** Works out what would be changed about what is looked at. */
final class Planning {
    private final Reach reach;
    private final List<Project> projects;
    private final Subject subject;
    private final Progress progress;

    Planning(Reach reach, List<Project> projects, Subject subject, Progress progress) {
        this.reach = reach;
        this.projects = projects;
        this.subject = subject;
        this.progress = progress;
    }

    /**
     * What the user chose besides the goal.
     *
     * @param folders in which what is missing is looked for
     * @param form in which files would be handed over
     * @param instead the id of the asset that would be used instead
     */
    record Wishes(List<Path> folders, HandOver.Form form, Optional<String> instead) {}

    /** What a goal comes to. */
    Planned plan(Goal goal, Wishes wishes) {
        return switch (goal) {
            case RELINK -> relinking(wishes.folders());
            case STRAYS -> placing(Strays.find(reach, progress));
            case LEFTOVERS -> clearing();
            case SWAP -> swap(wishes.instead());
            case RIPPLE -> ripple(asset -> asset.newest().map(version -> Imagined.ready(asset, version)));
            case RETIRED -> ripple(asset -> asset.ready().map(version -> Imagined.retired(asset, version)));
            case REMOVED -> ripple(asset -> Optional.of(Imagined.removed(asset)));
            case HAND_OVER -> handingOver(wishes.form());
            case MERGE -> merging();
            case CHECK ->
                Planned.of(new Planned.Checked(
                        reach.broken(progress).stream()
                                .filter(each -> isMeant(each.asset()))
                                .toList(),
                        reach.movedOn().stream()
                                .filter(each -> isMeant(each.copy()))
                                .toList()));
            case ARCHIVE -> archiving();
            case READY, FOLLOW, PIN -> Planned.of(updates(goal));
        };
    }

    /** Of an asset, the files that use it. */
    private Planned handingOver(HandOver.Form form) {
        List<Path> files = new ArrayList<>();
        if (subject instanceof Subject.OfFile(Path file)) {
            files.add(file);
        } else if (subject instanceof Subject.OfAsset(String id)) {
            reach.byId(id).ifPresent(asset -> reach.uses(asset, Optional.empty()).stream()
                    .map(Reach.SceneUse::file)
                    .distinct()
                    .forEach(files::add));
            if (files.isEmpty()) {
                return Planned.NOTHING;
            }
        }
        if (!reach.files().containsAll(files)) {
            return Planned.NOTHING;
        }
        return Planned.of(new Planned.HandingOver(HandOver.plan(reach, projects, files, form, progress)));
    }

    private Planned clearing() {
        List<Path> files = subject instanceof Subject.OfFile(Path file) ? List.of(file) : List.of();
        List<Leftovers.Leftover> found =
                subject instanceof Subject.OfAsset || !reach.files().containsAll(files)
                        ? List.of()
                        : Leftovers.find(reach, files, progress);
        return new Planned(
                new ChangePlan(
                        "Cleared leftovers",
                        found.stream().map(Leftovers.Leftover::change).toList()),
                new Planned.Clearing(found));
    }

    /** Each asset or version is a line that can be unticked, by its library. */
    private Planned archiving() {
        List<Reach.UnusedAsset> assets = new ArrayList<>();
        List<Reach.UnusedVersion> versions = new ArrayList<>();
        List<Change> changes = new ArrayList<>();
        for (Library library : reach.libraries()) {
            Reach.Unused unused = reach.unused(library);
            for (Reach.UnusedAsset each : unused.assets()) {
                if (isMeant(each.asset())) {
                    assets.add(each);
                    changes.add(change(library, each));
                }
            }
            for (Reach.UnusedVersion each : unused.versions()) {
                if (isMeant(each.asset()) && !each.asset().newest().equals(Optional.of(each.version()))) {
                    versions.add(each);
                    changes.add(change(library, each));
                }
            }
        }
        return new Planned(
                new ChangePlan("Archived assets", changes),
                new Planned.Archiving(List.copyOf(assets), List.copyOf(versions)));
    }

    private boolean isMeant(Asset asset) {
        return asset().filter(each -> !each.equals(asset)).isEmpty();
    }

    static Change change(Library library, Reach.UnusedVersion unused) {
        Asset asset = unused.asset();
        Path folder = asset.folder().resolve(unused.version());
        return new Change(
                library.root(), asset.shelf(), folder, folder, asset.card().name() + " " + unused.version());
    }

    static Change change(Library library, Reach.UnusedAsset unused) {
        Asset asset = unused.asset();
        return new Change(
                library.root(),
                asset.shelf(),
                asset.folder(),
                asset.folder(),
                asset.card().name());
    }

    /** Of an asset, the pairs that it is in. */
    private Planned merging() {
        List<AssetTwins.Pair> pairs = subject instanceof Subject.OfFile
                ? List.of()
                : AssetTwins.find(reach, progress).stream()
                        .filter(pair -> asset().isEmpty()
                                || asset().filter(each -> each.equals(pair.kept()) || each.equals(pair.gone()))
                                        .isPresent())
                        .toList();
        return new Planned(
                new ChangePlan(
                        "Merged assets that are one",
                        pairs.stream()
                                .filter(Planning::isMergeable)
                                .map(pair -> change(reach, pair))
                                .toList()),
                new Planned.Merging(pairs));
    }

    /** Whether one can be put in the place of the other, and looks like it. */
    static boolean isMergeable(AssetTwins.Pair pair) {
        return pair.hindrance().isEmpty() && pair.sameLook();
    }

    static Change change(Reach reach, AssetTwins.Pair pair) {
        Path library = reach.libraries().stream()
                .map(Library::root)
                .filter(root -> pair.gone().folder().startsWith(root))
                .findFirst()
                .orElseThrow();
        return new Change(
                library,
                pair.gone().shelf() + " · " + Units.counted(pair.placements(), "placement"),
                pair.gone().folder(),
                pair.kept().folder(),
                pair.gone().card().name() + " becomes " + pair.kept().card().name());
    }

    private Planned relinking(List<Path> folders) {
        List<Relinking.Missing> missing = new Relinking(reach, folders, progress)
                .missing().stream().filter(each -> subject.isOf(each.file())).toList();
        return new Planned(Relinking.plan(missing), new Planned.Relinks(missing));
    }

    /** Each copy is a line that can be unticked. */
    private Planned placing(List<Strays.Group> all) {
        List<Strays.Group> groups = new ArrayList<>();
        List<Change> changes = new ArrayList<>();
        for (Strays.Group group : all) {
            if (subject instanceof Subject.OfAsset(String id)
                    && !id.equals(group.asset().card().id())) {
                continue;
            }
            Strays.Group some = group.keeping(copy -> subject.isOf(copy.file()));
            groups.add(some);
            some.copies().forEach(copy -> changes.add(change(some, copy)));
        }
        changes.sort(Comparator.comparing(Change::file));
        List<Strays.Recurring> recurring = subject instanceof Subject.OfAsset
                ? List.of()
                : Strays.recurring(reach, all, progress).stream()
                        .filter(each -> each.copies().stream().anyMatch(copy -> subject.isOf(copy.file())))
                        .toList();
        return new Planned(
                new ChangePlan("Placed copies of assets", changes), new Planned.Copies(List.copyOf(groups), recurring));
    }

    static Change change(Strays.Group group, Strays.Copy copy) {
        return new Change(
                copy.file(),
                copy.path().toString(),
                copy.file(),
                group.asset().readyLayer(),
                "A copy of " + group.asset().card().name());
    }

    private Optional<Asset> asset() {
        return subject instanceof Subject.OfAsset(String id) ? reach.byId(id) : Optional.empty();
    }

    /** Overrides that can be carried over are lines that can be unticked. */
    private Planned ripple(Function<Asset, Optional<Imagined>> imagined) {
        return asset().flatMap(imagined)
                .map(change -> {
                    WhatIf.Ripple ripple = WhatIf.of(reach, change, progress);
                    List<Change> carried = change.kind() != Imagined.Kind.READY
                            ? List.of()
                            : ripple.effects().stream()
                                    .flatMap(effect -> effect.lost().stream())
                                    .filter(CarryOver::isPossible)
                                    .map(CarryOver::change)
                                    .distinct()
                                    .toList();
                    return new Planned(new ChangePlan("Carried overrides over", carried), new Planned.Ripple(ripple));
                })
                .orElse(Planned.NOTHING);
    }

    private Planned swap(Optional<String> instead) {
        Optional<Asset> asset = asset();
        Optional<Asset> other = instead.flatMap(reach::byId).filter(each -> !asset.equals(Optional.of(each)));
        if (asset.isEmpty() || other.isEmpty()) {
            return Planned.NOTHING;
        }
        ChangePlan plan = new Updates(reach, List.of(asset.get()), List.of()).swap(other.get());
        return new Planned(
                plan, new Planned.Ripple(WhatIf.of(reach, Imagined.swapped(asset.get(), other.get()), progress)));
    }

    private ChangePlan updates(Goal goal) {
        List<Asset> assets = asset().stream().toList();
        if (subject instanceof Subject.OfAsset && assets.isEmpty()
                || subject instanceof Subject.OfFile(Path file)
                        && !reach.files().contains(file)) {
            return Planned.NOTHING.plan();
        }
        List<Path> files = subject instanceof Subject.OfFile(Path file) ? List.of(file) : List.of();
        Updates updates = new Updates(reach, assets, files);
        return switch (goal) {
            case FOLLOW -> updates.follow();
            case PIN -> updates.pin();
            default -> updates.toReady();
        };
    }
}
