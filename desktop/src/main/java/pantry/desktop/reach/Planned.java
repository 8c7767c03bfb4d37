package pantry.desktop.reach;

import java.util.List;
import java.util.Optional;
import pantry.project.AssetTwins;
import pantry.project.ChangePlan;
import pantry.project.HandOver;
import pantry.project.Leftovers;
import pantry.project.Reach;
import pantry.project.Relinking;
import pantry.project.Strays;
import pantry.project.WhatIf;

/**
 * What is planned.
 *
 * @param plan what would be changed in files, place by place
 * @param detail what else there is to say, by the goal
 */
public record Planned(ChangePlan plan, Detail detail) {
    static final Planned NOTHING = of(new ChangePlan("", List.of()));

    /** What a goal has besides changes. */
    public sealed interface Detail {}

    private record None() implements Detail {}

    /** @param missing what is not there of what the subject names */
    record Relinks(List<Relinking.Missing> missing) implements Detail {}

    /**
     * @param groups the copies of assets that the changes let be placements
     * @param recurring what stands there several times and is no asset yet
     */
    record Copies(List<Strays.Group> groups, List<Strays.Recurring> recurring) implements Detail {}

    /** @param ripple what a version would do to the files that follow */
    record Ripple(WhatIf.Ripple ripple) implements Detail {}

    /** @param handOver what would be handed over */
    record HandingOver(HandOver handOver) implements Detail {}

    /** @param leftovers what nothing needs; each is a line of the plan */
    record Clearing(List<Leftovers.Leftover> leftovers) implements Detail {}

    /**
     * @param broken versions that are used and are not as they were sealed
     * @param movedOn copies that are used, and whose originals have newer versions
     */
    record Checked(List<Reach.Broken> broken, List<Reach.MovedOn> movedOn) implements Detail {}

    /** @param pairs assets that are the same thing; those that can be merged and look alike are lines of the plan */
    record Merging(List<AssetTwins.Pair> pairs) implements Detail {}

    /**
     * @param assets that nobody uses; each is a line of the plan
     * @param versions that nobody uses, of assets that somebody does; they are lines as well
     */
    record Archiving(List<Reach.UnusedAsset> assets, List<Reach.UnusedVersion> versions) implements Detail {}

    static Planned of(ChangePlan plan) {
        return new Planned(plan, new None());
    }

    /** Where nothing is changed in files. */
    static Planned of(Detail detail) {
        return new Planned(NOTHING.plan(), detail);
    }

    /** What is not there, where that is to be mended. */
    public List<Relinking.Missing> missing() {
        return detail instanceof Relinks(List<Relinking.Missing> missing) ? missing : List.of();
    }

    /** The copies of assets, where those are to be placed. */
    List<Strays.Group> copies() {
        return detail instanceof Copies copies ? copies.groups() : List.of();
    }

    /** What a version would do, where that is asked. */
    public Optional<WhatIf.Ripple> ripple() {
        return detail instanceof Ripple(WhatIf.Ripple ripple) ? Optional.of(ripple) : Optional.empty();
    }

    /** What would be handed over, where that is wanted. */
    public Optional<HandOver> handOver() {
        return detail instanceof HandingOver(HandOver handOver) ? Optional.of(handOver) : Optional.empty();
    }

    /** What nobody uses, where that is to be archived. */
    public List<Reach.UnusedAsset> unused() {
        return detail instanceof Archiving archiving ? archiving.assets() : List.of();
    }

    /** The versions that nobody uses, where those are to be archived. */
    public List<Reach.UnusedVersion> unusedVersions() {
        return detail instanceof Archiving archiving ? archiving.versions() : List.of();
    }

    /** Assets that are the same thing, where those are to be merged. */
    public List<AssetTwins.Pair> pairs() {
        return detail instanceof Merging(List<AssetTwins.Pair> pairs) ? pairs : List.of();
    }

    /** Versions that are used and are not as they were sealed, where that is asked. */
    public List<Reach.Broken> broken() {
        return detail instanceof Checked checked ? checked.broken() : List.of();
    }

    /** Copies whose originals have newer versions, where that is asked. */
    public List<Reach.MovedOn> movedOn() {
        return detail instanceof Checked checked ? checked.movedOn() : List.of();
    }

    /** What nothing needs, where that is to be cleared out. */
    List<Leftovers.Leftover> leftovers() {
        return detail instanceof Clearing(List<Leftovers.Leftover> leftovers) ? leftovers : List.of();
    }

    /** What stands there several times and is no asset yet, where copies are looked for. */
    public List<Strays.Recurring> recurring() {
        return detail instanceof Copies copies ? copies.recurring() : List.of();
    }
}
