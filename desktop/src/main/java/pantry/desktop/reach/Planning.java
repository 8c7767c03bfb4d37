package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.HandOver;
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
     * What a goal comes to.
     *
     * @param folders in which what is missing is looked for
     * @param form in which files would be handed over
     */
    Planned plan(Goal goal, List<Path> folders, HandOver.Form form) {
        return switch (goal) {
            case RELINK -> relinking(folders);
            case STRAYS -> placing(Strays.find(reach, progress));
            case RIPPLE -> ripple();
            case HAND_OVER -> handingOver(form);
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
        return new Planned(new ChangePlan("Placed copies of assets", changes), new Planned.Copies(List.copyOf(groups)));
    }

    static Change change(Strays.Group group, Strays.Copy copy) {
        return new Change(
                copy.file(),
                copy.path().toString(),
                copy.file(),
                group.asset().readyLayer(),
                "A copy of " + group.asset().card().name());
    }

    private Planned ripple() {
        Optional<Asset> asset = subject instanceof Subject.OfAsset(String id) ? reach.byId(id) : Optional.empty();
        return asset.flatMap(each -> each.newest().map(version -> WhatIf.ready(reach, each, version, progress)))
                .map(ripple -> Planned.of(new Planned.Ripple(ripple)))
                .orElse(Planned.NOTHING);
    }

    private ChangePlan updates(Goal goal) {
        List<Asset> assets = subject instanceof Subject.OfAsset(String id)
                ? reach.byId(id).stream().toList()
                : List.of();
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
