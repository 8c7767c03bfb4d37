package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.TWINS;

import java.util.List;
import pantry.mesh.ConnectedParts;
import pantry.mesh.Mesh;
import pantry.prep.tools.Instances;
import pantry.prep.tools.TwinSets;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Surroundings;

/** Things of one shape that are stored several times. */
final class TwinRules {
    static final List<Rule> ALL = List.of(
            Rule.of(
                            "twins",
                            TWINS,
                            Severity.CAUTION,
                            "Objects of one shape",
                            "Each stores its own triangles; as instances they share one shape, and a better one replaces all.",
                            TwinRules::twins)
                    .limit("tolerance", 0.0, "metres that a vertex may be off; 0 for a ten-thousandth of the object")
                    .limit("saved", 100.0, "triangles; smaller savings are not worth it"),
            Rule.of(
                            "twin-parts",
                            TWINS,
                            Severity.CAUTION,
                            "One mesh of many equal parts",
                            "A block that was joined from equal parts can be taken apart, and the parts share one shape.",
                            TwinRules::parts)
                    .limit("tolerance", 0.0, "metres that a vertex may be off; 0 for a ten-thousandth of the part")
                    .limit("saved", 1000.0, "triangles; smaller savings are not worth it"),
            Rule.of(
                    "twin-asset",
                    TWINS,
                    Severity.CAUTION,
                    "Another asset that is the same",
                    "Scenes would hold the one or the other, and only one of them would be looked after.",
                    (subject, limits, found) -> subject.surroundings().ifPresent(around -> around.like(
                                    Surroundings.Likeness.of(subject.model()), subject.assetId())
                            .forEach(other -> found.add(subject.topPath(), "it has the shape of " + other, null)))));

    private TwinRules() {}

    private static void twins(Subject subject, Limits limits, Findings found) {
        TwinOptions options = TwinOptions.USUAL.withTolerance(limits.number("tolerance"));
        for (TwinSets.Set set : TwinSets.find(subject, options)) {
            if (set.saved() >= limits.number("saved")) {
                InspectedPrim first =
                        subject.item(set.members().getFirst().path()).orElseThrow();
                found.add(first.path(), told(first.title(), set), set.paths(), sharing(set));
            }
        }
    }

    private static String told(String title, TwinSets.Set set) {
        return title + " and " + (set.members().size() - 1) + " more: " + DisplayText.count(set.triangles(), "triangle")
                + " each, " + DisplayText.number(set.saved()) + " could go"
                + (set.mirrored() ? "; some are mirrored" : "")
                + (Math.abs(set.scale() - 1) > 1e-3 ? "; some are larger or smaller" : "")
                + (set.materials() > 1 ? "; of " + set.materials() + " materials" : "");
    }

    private static void parts(Subject subject, Limits limits, Findings found) {
        TwinOptions options = TwinOptions.USUAL.withTolerance(limits.number("tolerance"));
        subject.surfaces()
                .filter(item -> Subject.isObject(item)
                        && item.children().isEmpty()
                        && item.path().depth() > 1
                        && subject.isEditable(item)
                        && item.surface().faults().isEmpty()
                        && subject.faults(item.mesh().orElseThrow()).parts() > 1)
                .forEach(item -> {
                    List<Mesh> parts = ConnectedParts.of(item.mesh().orElseThrow());
                    List<TwinGroup> groups = TwinSets.within(
                                    parts,
                                    subject.isTextured(item),
                                    TwinSets.grown(item.world()),
                                    options,
                                    subject.progress())
                            .stream()
                            .filter(group -> group.triangles(true) >= limits.number("saved") / 10)
                            .toList();
                    long saved = groups.stream()
                            .mapToLong(group -> group.triangles(true))
                            .sum();
                    if (saved >= limits.number("saved")) {
                        int twins = groups.stream()
                                .mapToInt(group -> group.members().size())
                                .sum();
                        double off = groups.stream()
                                        .mapToDouble(TwinGroup::deviation)
                                        .max()
                                        .orElse(0)
                                * TwinSets.grown(item.world());
                        found.add(
                                item.path(),
                                item.title() + " has " + DisplayText.count(twins, "part") + " of "
                                        + DisplayText.count(groups.size(), "shape") + "; " + DisplayText.number(saved)
                                        + " triangles could go",
                                new Fix(
                                        "Take apart and share",
                                        Fix.Keeps.EVERY_VERTEX,
                                        off * 1.01,
                                        tidying -> Instances.takeApart(tidying, item.path(), parts, groups)));
                    }
                });
    }

    /** Lets the objects of a set share their shape. */
    private static Fix sharing(TwinSets.Set set) {
        return new Fix(
                "Make instances",
                Fix.Keeps.EVERY_VERTEX,
                set.deviation() * 1.01,
                tidying -> Instances.make(tidying, set.members()));
    }
}
