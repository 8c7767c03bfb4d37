package pantry.desktop.receive;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.catalogue.Alike;
import pantry.catalogue.SameFiles;
import pantry.desktop.session.Session;
import pantry.intake.ScaleEvidence;
import pantry.intake.Slip;
import pantry.intake.Survey;
import pantry.model.ShapeDescriptor;

/** Looks for what arrivals are like: on the shelves, and on the list. What is known already is left out, and says so. */
final class KnownArrivals {
    private static final double ALIKE = 0.85;
    private static final int MOST_ALIKE = 4;

    private final Session session;
    private final List<Arrival> arrivals;
    private final SlipChoices choices;
    private final Runnable whenJudged;

    /** @param whenJudged is done each time that an arrival was looked for */
    KnownArrivals(Session session, List<Arrival> arrivals, SlipChoices choices, Runnable whenJudged) {
        this.session = session;
        this.arrivals = arrivals;
        this.choices = choices;
        this.whenJudged = whenJudged;
    }

    private static Optional<ShapeDescriptor> shape(Arrival arrival) {
        return arrival.surveyProperty().get().flatMap(Survey::shape);
    }

    /** Looks for an arrival's like; nothing where it was not read yet. */
    void look(Arrival arrival) {
        // What is suggested is asked for again here: the usual choices of a shelf are read from its library.
        record Found(List<Alike> alike, Set<Arrival> sameFiles, Slip suggested) {}
        Optional<Survey> survey = arrival.surveyProperty().get();
        if (survey.isEmpty()) {
            return;
        }
        // Models tell by their shapes.
        List<Arrival> shapeless =
                shape(arrival).isPresent() ? List.of() : before(arrival).toList();
        session.quietly(
                "looking for similar shapes",
                progress -> new Found(
                        session.workbench()
                                .catalogue()
                                .sameFiles()
                                .alike(
                                        arrival.file(),
                                        survey.get().shape(),
                                        session.shelving().finder(),
                                        ALIKE,
                                        MOST_ALIKE),
                        shapeless.stream()
                                .filter(other -> SameFiles.areSame(arrival.file(), other.file()))
                                .collect(Collectors.toSet()),
                        choices.suggested(survey.get().outline())),
                found -> {
                    choices.found(arrival, found.alike(), found.suggested());
                    judge(arrival, known(arrival, found.sameFiles()));
                },
                problem -> {
                    session.wrong(problem);
                    judge(arrival, Optional.empty());
                });
    }

    private void judge(Arrival arrival, Optional<String> known) {
        arrival.judge(known);
        whenJudged.run();
    }

    /** Looks for the like of all that still wait, as after the shelves have changed. */
    void lookAgain() {
        arrivals.stream().filter(Arrival::isOpen).forEach(this::look);
    }

    private Stream<Arrival> before(Arrival arrival) {
        return arrivals.stream().takeWhile(other -> other != arrival);
    }

    /** @param sameFiles other arrivals with the same bytes, of what has no shape */
    private Optional<String> known(Arrival arrival, Set<Arrival> sameFiles) {
        return arrival.alikeProperty().get().stream()
                .filter(each -> each.sameFile() || isSame(each, arrival))
                .findFirst()
                .map(each -> "the same as " + each.item().name() + " on "
                        + each.item().shelf())
                .or(() -> before(arrival)
                        .filter(Arrival::isOpen)
                        .filter(other -> isSameShape(arrival, other) || sameFiles.contains(other))
                        .findFirst()
                        .map(other -> "the same as " + other.name() + " on the list"
                                + (sameSize(arrival, other) ? "" : ", at another size")));
    }

    private static boolean isSame(Alike each, Arrival arrival) {
        return each.isSameShape()
                && each.item().triangles() == triangles(arrival)
                && ScaleEvidence.isAsTall(arrival.height(), each.item().size()[1]);
    }

    private static boolean isSameShape(Arrival arrival, Arrival other) {
        return triangles(other) == triangles(arrival)
                && shape(arrival)
                        .flatMap(shape -> shape(other).map(shape::likeness))
                        .filter(likeness -> likeness >= Alike.SAME)
                        .isPresent();
    }

    private static boolean sameSize(Arrival arrival, Arrival other) {
        return ScaleEvidence.isAsTall(arrival.height(), other.height());
    }

    private static long triangles(Arrival arrival) {
        return arrival.surveyProperty()
                .get()
                .map(Survey::facts)
                .map(facts -> facts.triangles())
                .orElse(-1L);
    }
}
