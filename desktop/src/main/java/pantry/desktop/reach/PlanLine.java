package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import pantry.desktop.session.Units;
import pantry.project.Change;
import pantry.project.Credits;
import pantry.project.HandOver;
import pantry.project.Relinking;
import pantry.project.WhatIf;

/** A line of a plan as it is shown. */
sealed interface PlanLine {
    /** A file, above the changes in it. */
    record Head(Path file, List<Change> changes) implements PlanLine {}

    /** A change that can be unticked. */
    record One(Change change) implements PlanLine {}

    /** Something missing for which nothing sure was found. */
    record NotFound(Relinking.Missing missing) implements PlanLine {}

    /** What would become of a scene. */
    record Touched(WhatIf.Effect effect) implements PlanLine {}

    /** @param wrong whether it should not be so */
    record Note(String says, String more, boolean wrong) implements PlanLine {}

    /** What a plan comes to, line by line. */
    static List<PlanLine> of(Planned planned) {
        List<PlanLine> all = new ArrayList<>();
        planned.ripple().ifPresent(ripple -> ripple.effects().forEach(effect -> all.add(new Touched(effect))));
        for (Map.Entry<Path, List<Change>> each : planned.plan().byFile().entrySet()) {
            all.add(new Head(each.getKey(), each.getValue()));
            each.getValue().forEach(change -> all.add(new One(change)));
        }
        planned.missing().stream()
                .filter(missing -> missing.best().isEmpty())
                .forEach(missing -> all.add(new NotFound(missing)));
        planned.broken()
                .forEach(each -> all.add(new Note(
                        each.asset().card().name() + " " + each.version() + " is not as it was sealed",
                        each.problem().path().getFileName() + " "
                                + each.problem().message() + "; "
                                + Units.counted(each.placements(), "placement")
                                + ": Check the library, in the menu of libraries, offers to repair it",
                        true)));
        planned.movedOn()
                .forEach(each -> all.add(new Note(
                        each.copy().card().name() + " is a copy of an asset that has moved on",
                        "its original has " + Units.counted(each.versions(), "newer version") + "; "
                                + Units.counted(each.placements(), "placement") + " of the copy",
                        false)));
        planned.pairs().stream()
                .filter(pair -> !Planning.isMergeable(pair))
                .forEach(pair -> all.add(new Note(
                        pair.gone().card().name() + " and " + pair.kept().card().name(),
                        pair.hindrance()
                                .map(why -> pair.gone().card().name() + " " + why)
                                .orElse("one shape, and other materials: not merged here"),
                        pair.hindrance().isPresent())));
        planned.handOver().ifPresent(handOver -> all.addAll(notes(handOver)));
        planned.recurring()
                .forEach(recurring -> all.add(new Note(
                        Units.count(recurring.copies().size()) + " copies of no asset, "
                                + Units.count(recurring.triangles()) + " triangles each",
                        recurring.copies().getFirst().file().getFileName() + " "
                                + recurring.copies().getFirst().path()
                                + ": put it on a shelf from Scenes, and the copies are found here",
                        false)));
        return all;
    }

    private static List<PlanLine> notes(HandOver handOver) {
        List<PlanLine> notes = new ArrayList<>();
        handOver.missing()
                .forEach(missing -> notes.add(
                        new Note(missing.file().getFileName() + ": not all can be taken along", missing.why(), true)));
        handOver.credits().stream()
                .filter(Credits.Line::isLacking)
                .forEach(line -> notes.add(new Note(
                        line.asset().card().name(),
                        line.unknown() ? "no licence is given" : "nobody is told who must be named",
                        true)));
        handOver.credits().stream()
                .filter(line -> !line.isLacking() && line.nonCommercial())
                .forEach(line -> notes.add(new Note(
                        line.asset().card().name(),
                        line.asset().card().licence() + ": not for commercial use",
                        false)));
        handOver.scenes()
                .forEach(scene -> notes.add(
                        new Note(String.valueOf(scene.getFileName()), String.valueOf(scene.getParent()), false)));
        return notes;
    }
}
