package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.LIBRARY;

import java.nio.file.Files;
import java.util.List;
import java.util.function.Function;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.library.Card;
import pantry.library.Licences;
import pantry.prep.tools.Instances;
import pantry.prep.tools.Proxy;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;

/** What a librarian asks of an asset on the shelves. */
final class LibraryRules {
    static final List<Rule> ALL = List.of(
            Rule.of(
                    "no-licence",
                    LIBRARY,
                    Severity.WRONG,
                    "No licence",
                    "Nobody knows whether it may be used.",
                    (subject, limits, found) -> card(
                            subject,
                            found,
                            card -> card.licence().isBlank()
                                    ? "the card does not say under which licence it may be used"
                                    : Licences.valid(card.licence())
                                            ? ""
                                            : card.licence() + " is no licence that is known")),
            Rule.of(
                    "no-tag",
                    LIBRARY,
                    Severity.INFORMATION,
                    "No tag",
                    "It is found by its name only.",
                    (subject, limits, found) ->
                            card(subject, found, card -> card.tags().isEmpty() ? "the card has no tag" : "")),
            Rule.of(
                    "card-incomplete",
                    LIBRARY,
                    Severity.INFORMATION,
                    "Card with gaps",
                    "Who made it and where it is from cannot be found out later.",
                    (subject, limits, found) -> card(subject, found, card -> {
                        List<String> gaps = new java.util.ArrayList<>();
                        if (card.credit().isBlank()) {
                            gaps.add("who made it");
                        }
                        if (card.source().isBlank()) {
                            gaps.add("where it is from");
                        }
                        return gaps.isEmpty() ? "" : "the card does not say " + String.join(" nor ", gaps);
                    })),
            Rule.of(
                    "no-thumbnail",
                    LIBRARY,
                    Severity.CAUTION,
                    "No picture",
                    "On the shelf there is an empty place. A new version gets a picture.",
                    (subject, limits, found) -> subject.workpiece()
                            .shelved()
                            .filter(place -> !Files.exists(place.asset().preview(place.version())))
                            .ifPresent(place -> about(subject, found, "this version has no picture"))),
            Rule.of(
                    "odd-size",
                    LIBRARY,
                    Severity.CAUTION,
                    "Size that is hard to believe",
                    "Most often the unit was taken for another when the file came in.",
                    LibraryRules::oddSize),
            Rule.of(
                            "no-proxy",
                            LIBRARY,
                            Severity.INFORMATION,
                            "Heavy and without a proxy",
                            "Working in a scene with it is slow; a few boxes would do while working.",
                            LibraryRules::noProxy)
                    .limit("triangles", 50_000.0, "lighter assets need none")
                    .limit("boxes", 6.0, "of the proxy that is made"),
            Rule.of(
                            "proxy-off",
                            LIBRARY,
                            Severity.CAUTION,
                            "Proxy out of line",
                            "Things that are placed by the proxy stand wrong when they are rendered.",
                            LibraryRules::proxyOff)
                    .limit("share", 0.02, "of the diagonal by which base and centre may differ")
                    .limit("boxes", 6.0, "of the proxy that is made instead"));

    private LibraryRules() {}

    private static void card(Subject subject, Findings found, Function<Card, String> question) {
        subject.workpiece().shelved().ifPresent(place -> {
            String answer = question.apply(place.asset().card());
            if (!answer.isEmpty()) {
                about(subject, found, answer);
            }
        });
    }

    /** Something about the asset that nothing of its shape shows. */
    private static void about(Subject subject, Findings found, String message) {
        found.add(subject.topPath(), message, List.of(), null);
    }

    private static void oddSize(Subject subject, Limits limits, Findings found) {
        Box3 box = subject.drawn();
        if (!box.isEmpty()) {
            subject.workpiece()
                    .shelved()
                    .flatMap(place -> subject.surroundings()
                            .flatMap(around ->
                                    around.oddSize(box.size(), place.asset().shelf())))
                    .ifPresent(said -> found.add(subject.topPath(), said, null));
        }
    }

    private static boolean hasProxy(Subject subject) {
        return subject.objects()
                .anyMatch(
                        item -> item.purpose().equals("proxy") && !item.bounds().isEmpty());
    }

    private static void noProxy(Subject subject, Limits limits, Findings found) {
        long triangles = subject.model().trianglesDrawn();
        // A scene, or a prefab of other assets, has the proxies of what it uses.
        boolean own = subject.surfaces().anyMatch(item -> item.own() && item.isDrawn());
        if (own && triangles >= limits.number("triangles") && !hasProxy(subject)) {
            found.add(
                    subject.topPath(),
                    "it has " + DisplayText.count(triangles, "triangle") + " and no proxy",
                    making(subject, limits));
        }
    }

    private static Fix making(Subject subject, Limits limits) {
        return Fix.of(
                "Make one of boxes",
                tidying -> Proxy.write(
                        tidying, Proxy.boxes(subject.model(), (int) limits.number("boxes"), subject.progress())));
    }

    private static void proxyOff(Subject subject, Limits limits, Findings found) {
        if (!hasProxy(subject) || subject.drawn().isEmpty()) {
            return;
        }
        Box3 proxy = Box3.EMPTY;
        for (InspectedPrim item : subject.objects().toList()) {
            if (item.seen() && item.purpose().equals("proxy")) {
                proxy = proxy.union(item.ownBounds());
            }
        }
        if (proxy.isEmpty()) {
            return;
        }
        Vec3 off = Instances.base(proxy).minus(Instances.base(subject.drawn()));
        if (off.length() > limits.number("share") * subject.drawn().size().length()) {
            found.add(
                    subject.topPath(),
                    "the base of its proxy is " + DisplayText.length(off.length()) + " beside its own",
                    making(subject, limits));
        }
    }
}
