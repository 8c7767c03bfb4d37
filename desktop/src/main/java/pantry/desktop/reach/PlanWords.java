package pantry.desktop.reach;

import java.util.List;
import java.util.Optional;
import pantry.desktop.session.Units;
import pantry.project.Imagined;
import pantry.project.Reach;
import pantry.project.Relinking;
import pantry.project.RippleReport;
import pantry.project.WhatIf;

/** What is said about plans. */
final class PlanWords {
    private PlanWords() {}

    /** What a plan comes to, in a few sentences. */
    static String said(Planned planned, Goal goal) {
        if (goal == Goal.LEFTOVERS) {
            return planned.leftovers().isEmpty()
                    ? "Nothing here that is not needed. Files that others use are not looked at."
                    : "Files that others use, or in which something is missing, are not looked at. Each file is written anew.";
        }
        if (goal == Goal.CHECK) {
            return planned.broken().isEmpty() && planned.movedOn().isEmpty()
                    ? "All versions that are used are as they were sealed, and no copy's original has moved on."
                    : "Each file of each version that is used was read and compared with its seal.";
        }
        if (goal == Goal.MERGE) {
            return planned.pairs().isEmpty()
                    ? "No two assets here are the same thing."
                    : "They have one shape and one size. The one that is placed most is kept, the other goes to the trash;"
                            + " every vertex stays where it is, also in files that are not known here.";
        }
        if (goal == Goal.ARCHIVE) {
            long bytes = planned.unused().stream()
                            .mapToLong(Reach.UnusedAsset::bytes)
                            .sum()
                    + planned.unusedVersions().stream()
                            .mapToLong(Reach.UnusedVersion::bytes)
                            .sum();
            return planned.plan().changes().isEmpty()
                    ? "Every asset and version here is used by a file of the open projects or by another asset, or is the"
                            + " newest."
                    : "No file of the open projects and no other asset uses these assets and versions; together "
                            + Units.bytes(bytes)
                            + ". In the archive they stay what they are; signposts stay where they stood.";
        }
        if (goal == Goal.HAND_OVER) {
            return planned.handOver()
                    .map(handOver -> Units.counted(handOver.scenes().size(), "scene") + " and all that they use: "
                            + Units.counted(handOver.files().size(), "file") + ", "
                            + Units.bytes(handOver.bytes())
                            + ". Once each, by relative paths, pinned to what is seen now, with a manifest and a page of"
                            + " credits.")
                    .orElse("No file here is to be handed over.");
        }
        if (goal == Goal.SWAP && planned.ripple().isEmpty()) {
            return "Choose an asset on the left, and the one to use instead.";
        }
        if (goal == Goal.RIPPLE || goal == Goal.RETIRED || goal == Goal.REMOVED || goal == Goal.SWAP) {
            return planned.ripple()
                    .map(PlanWords::told)
                    .orElse("Choose an asset on the left, or a version in the columns.");
        }
        if (goal == Goal.STRAYS) {
            return planned.plan().changes().isEmpty()
                    ? "No copies of assets were found here."
                    : "Copies are known by their shape. Every vertex stays where it is; their materials become the asset's.";
        }
        if (goal != Goal.RELINK) {
            return planned.plan().changes().isEmpty()
                    ? "Nothing to change here."
                    : "Only what a placement refers to is changed; the rest of each file stays to the letter.";
        }
        if (planned.missing().isEmpty()) {
            return "Nothing is missing here.";
        }
        List<Relinking.Move> moves = Relinking.moves(planned.missing());
        return moves.isEmpty()
                ? "Nothing was found that is surely it."
                : moves.getFirst().from() + " seems to stand in "
                        + moves.getFirst().to() + " now.";
    }

    private static String told(WhatIf.Ripple ripple) {
        Imagined change = ripple.change();
        if (change.kind() == Imagined.Kind.READY && change.asset().ready().equals(Optional.of(change.version()))) {
            return change.asset().card().name() + " " + change.version() + " is ready already.";
        }
        return "If " + change.words() + ": " + RippleReport.line(ripple) + "."
                + (ripple.effects().isEmpty() ? "" : " Click a scene for pictures.");
    }
}
