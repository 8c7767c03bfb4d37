package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.STRUCTURE;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.motion.Skin;
import pantry.prep.tools.Instances;
import pantry.prep.tools.Pivots;
import pantry.prep.tools.PlanBox;
import pantry.usd.SdfPath;
import pantry.usd.schema.Xforms;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;

/** How a thing is put together, and how it stands. */
final class StructureRules {
    /** Scales nearer to one than this are none. */
    private static final double SCALE = 1e-5;

    static final List<Rule> ALL = List.of(
            Rule.of(
                    "empty-group",
                    STRUCTURE,
                    Severity.CAUTION,
                    "Empty group",
                    "It stands in the tree and holds nothing.",
                    StructureRules::emptyGroups),
            Rule.of(
                    "no-single-root",
                    STRUCTURE,
                    Severity.WRONG,
                    "No single root",
                    "Only what is under one named root comes along when the file is referenced.",
                    StructureRules::singleRoot),
            Rule.of(
                    "group-of-one",
                    STRUCTURE,
                    Severity.INFORMATION,
                    "Group of one",
                    "A group that holds a single object is one more line to open.",
                    StructureRules::groupsOfOne),
            Rule.of(
                            "deep-chain",
                            STRUCTURE,
                            Severity.INFORMATION,
                            "Deep chain",
                            "What lies many groups deep is hard to find and to grab.",
                            StructureRules::deepChains)
                    .limit("depth", 8.0, "levels"),
            Rule.of(
                    "root-moved",
                    STRUCTURE,
                    Severity.WRONG,
                    "Root with a transform",
                    "Where the asset is placed, the placement's transform takes its place: it would stand elsewhere.",
                    StructureRules::rootMoved),
            Rule.of(
                    "scale-mirrored",
                    STRUCTURE,
                    Severity.CAUTION,
                    "Mirrored by a negative scale",
                    "Some programs turn its faces inside out.",
                    (subject, limits, found) -> scaled(
                            subject, found, item -> item.local().determinant3() < 0, "is mirrored by its scale")),
            Rule.of(
                    "scale-uneven",
                    STRUCTURE,
                    Severity.CAUTION,
                    "Scaled unevenly",
                    "What is turned under an uneven scale is sheared; measures on it are wrong.",
                    (subject, limits, found) -> scaled(
                            subject,
                            found,
                            item -> item.local().determinant3() > 0 && isUneven(item.local()),
                            "is scaled unevenly")),
            Rule.of(
                    "scale-unapplied",
                    STRUCTURE,
                    Severity.INFORMATION,
                    "Scale that is not applied",
                    "Its own measures are not those at which it stands.",
                    (subject, limits, found) -> scaled(
                            subject,
                            found,
                            item -> item.local().determinant3() > 0
                                    && !isUneven(item.local())
                                    && Math.abs(Math.cbrt(item.local().determinant3()) - 1) > SCALE,
                            "has a scale that is not applied")),
            Rule.of(
                    "same-place",
                    STRUCTURE,
                    Severity.CAUTION,
                    "Several objects in exactly one place",
                    "Only one of them is seen, all of them are drawn, and they flicker.",
                    StructureRules::samePlace),
            Rule.of(
                            "far-part",
                            STRUCTURE,
                            Severity.CAUTION,
                            "Part far from the rest",
                            "The asset's box, picture and pivot are those of a thing much larger than it is.",
                            StructureRules::farParts)
                    .limit("distance", 3.0, "how far, in diagonals of the rest"),
            Rule.of(
                            "off-axes",
                            STRUCTURE,
                            Severity.INFORMATION,
                            "Turned off the axes",
                            "It cannot be put along a wall, repeated or measured by its box.",
                            StructureRules::offAxes)
                    .limit("share", 0.85, "of the upright box's area, below which a turned one is thought meant"),
            Rule.of(
                            "off-ground",
                            STRUCTURE,
                            Severity.CAUTION,
                            "Off the ground",
                            "Where it is placed it floats, or stands in the ground.",
                            StructureRules::offGround)
                    .limit("share", 0.005, "of its size that its lowest point may be off the ground"),
            Rule.of(
                            "off-centre",
                            STRUCTURE,
                            Severity.CAUTION,
                            "Beside its pivot",
                            "It is not where it is put, and turns around a point beside it.",
                            StructureRules::offCentre)
                    .limit("share", 0.05, "of its width that the middle of its base may be off"),
            Rule.of(
                            "pivots-in-one-place",
                            STRUCTURE,
                            Severity.CAUTION,
                            "All pivots in one place",
                            "Parts that were modelled where they stand can be neither turned nor exchanged one by one.",
                            StructureRules::pivotsInOnePlace)
                    .limit("parts", 6.0, "fewer parts than these are no matter"),
            Rule.of(
                            "pivot-outside",
                            STRUCTURE,
                            Severity.INFORMATION,
                            "Pivot outside of its part",
                            "The part swings around when it is turned.",
                            StructureRules::pivotOutside)
                    .limit("distance", 0.5, "how far outside of its box, in diagonals of the part"));

    private StructureRules() {}

    /** Objects that hold nothing and that nothing speaks of, the topmost of each. */
    private static void emptyGroups(Subject subject, Limits limits, Findings found) {
        Mentions mentions = Mentions.in(subject.stage().rootLayer());
        Set<InspectedPrim> empty = new HashSet<>();
        List<InspectedPrim> deepestFirst = new ArrayList<>(subject.items().toList());
        java.util.Collections.reverse(deepestFirst);
        for (InspectedPrim item : deepestFirst) {
            if (item.isGroup()
                    && item.own()
                    && item.prim().isActive()
                    && item.prim().isDefined()
                    && item.prim().variantSets().isEmpty()
                    && empty.containsAll(item.children())
                    && !mentions.of(item.path())) {
                empty.add(item);
            }
        }
        for (InspectedPrim item : subject.items().toList()) {
            if (empty.contains(item) && (item.parent() == null || !empty.contains(item.parent()))) {
                found.add(
                        item.path(),
                        item.title() + " holds nothing",
                        Fix.of("Remove it", tidying -> tidying.remove(item.path())));
            }
        }
    }

    private static void singleRoot(Subject subject, Limits limits, Findings found) {
        List<InspectedPrim> tops = subject.roots().stream()
                .filter(item -> Subject.isObject(item) && item.prim().isActive())
                .toList();
        boolean named = subject.stage().defaultPrim().isPresent();
        if (tops.size() > 1) {
            found.add(
                    SdfPath.ROOT,
                    "there are " + tops.size() + " objects at the top: "
                            + DisplayText.some(
                                    tops.stream().map(InspectedPrim::title).toList()),
                    tops.stream().map(InspectedPrim::path).toList(),
                    Fix.of("Gather them under one root", tidying -> Pivots.group(tidying, rootName(subject))));
        } else if (tops.size() == 1 && !named) {
            found.add(
                    tops.getFirst().path(),
                    "the file does not say that " + tops.getFirst().title() + " is its root",
                    Fix.of("Say so", tidying -> tidying.edits()
                            .setLayerField(
                                    "defaultPrim",
                                    new pantry.usd.Value.Token(
                                            tidying.at(tops.getFirst().path()).name()))));
        }
    }

    static String rootName(Subject subject) {
        return pantry.base.Names.identifier(
                pantry.base.Names.stem(subject.workpiece().title()));
    }

    /** A group below the root that holds one object and says nothing else. */
    private static boolean isIdle(Subject subject, InspectedPrim item, Mentions mentions) {
        return item.parent() != null
                && item.isGroup()
                && item.prim().typeName().equals("Xform")
                && Subject.isObject(item)
                && item.own()
                && subject.isMovable(item)
                && item.children().size() == 1
                && !item.bounds().isEmpty()
                && (item.children().getFirst().isGroup()
                        || item.children().getFirst().mesh().isPresent()
                        || item.children().getFirst().isInstance())
                && !item.children().getFirst().prim().typeName().equals("Scope")
                && subject.isMovable(item.children().getFirst())
                && item.children().getFirst().own()
                && item.prim().variantSets().isEmpty()
                && item.prim().kind().isEmpty()
                && item.seen() == item.children().getFirst().seen()
                && item.prim().propertyNames().stream().allMatch(name -> name.startsWith("xformOp"))
                && !mentions.of(item.path());
    }

    private static void groupsOfOne(Subject subject, Limits limits, Findings found) {
        Mentions mentions = Mentions.in(subject.stage().rootLayer());
        subject.items()
                .filter(item -> isIdle(subject, item, mentions))
                .forEach(item -> found.add(
                        item.path(),
                        item.title() + " holds only "
                                + item.children().getFirst().title(),
                        Fix.of("Take it out", tidying -> dissolve(tidying, item))));
    }

    /** Puts a group's only object in the group's place. It keeps its own name, where that is free. */
    private static void dissolve(Tidying tidying, InspectedPrim group) {
        InspectedPrim child = group.children().getFirst();
        SdfPath parent = group.path().parent();
        Matrix4 outer = tidying.prim(group.path()).map(Xforms::local).orElse(Matrix4.IDENTITY);
        Matrix4 inner = tidying.prim(child.path()).map(Xforms::local).orElse(Matrix4.IDENTITY);
        Matrix4 local = inner.times(outer);
        tidying.move(child.path(), parent, child.name());
        tidying.remove(group.path());
        if (local.equals(Matrix4.IDENTITY)) {
            tidying.clearLocal(child.path());
        } else {
            tidying.setLocal(child.path(), local);
        }
    }

    private static void deepChains(Subject subject, Limits limits, Findings found) {
        int most = (int) limits.number("depth");
        subject.objects()
                .filter(item -> item.path().depth() == most + 1)
                .forEach(item ->
                        found.add(item.path(), item.title() + " lies more than " + most + " levels deep", null));
    }

    private static void rootMoved(Subject subject, Limits limits, Findings found) {
        subject.top()
                .filter(top -> !top.local().equals(Matrix4.IDENTITY)
                        && (top.isGroup() || top.mesh().isPresent()))
                .ifPresent(top -> found.add(
                        top.path(),
                        "the root " + top.title() + " has a transform of its own",
                        Pivots.canReframe(subject, top)
                                ? Fix.of(
                                        "Give it to what it holds",
                                        tidying -> Pivots.reframe(tidying, subject, top, Matrix4.IDENTITY))
                                : null));
    }

    private static void scaled(Subject subject, Findings found, Predicate<InspectedPrim> question, String what) {
        subject.objects()
                .filter(item -> !item.isInstance()
                        && (item.mesh().isPresent() || item.isGroup())
                        && !item.bounds().isEmpty()
                        && question.test(item))
                .forEach(item -> found.add(
                        item.path(),
                        item.title() + " " + what,
                        Pivots.canApplyScale(subject, item)
                                ? Fix.of("Apply it", tidying -> Pivots.applyScale(tidying, subject, item))
                                : null));
    }

    private static boolean isUneven(Matrix4 local) {
        double[] m = local.times(Pivots.rigid(local).inverse()).rows();
        double mean = (Math.abs(m[0]) + Math.abs(m[5]) + Math.abs(m[10])) / 3;
        double off = 0;
        for (int row = 0; row < 3; row++) {
            for (int column = 0; column < 3; column++) {
                off = Math.max(off, Math.abs(Math.abs(m[4 * row + column]) - (row == column ? mean : 0)));
            }
        }
        return off > SCALE * mean;
    }

    private static List<InspectedPrim> leaves(Subject subject) {
        return subject.objects()
                .filter(item -> item.isDrawn()
                        && !item.bounds().isEmpty()
                        && (item.mesh().isPresent() || item.prim().isInstance()))
                .toList();
    }

    /** A mesh as it stands, told by what is quickly known. */
    private record Standing(int points, int faces, Vec3 min, Vec3 max) {
        static Standing of(Mesh mesh, Box3 box, double grain) {
            return new Standing(
                    mesh.pointCount(), mesh.faceCount(), rounded(box.min(), grain), rounded(box.max(), grain));
        }

        private static Vec3 rounded(Vec3 v, double grain) {
            double step = 16 * grain;
            return new Vec3(
                    Math.rint(v.x() / step) * step, Math.rint(v.y() / step) * step, Math.rint(v.z() / step) * step);
        }
    }

    private static void samePlace(Subject subject, Limits limits, Findings found) {
        Map<Standing, List<InspectedPrim>> standing = new HashMap<>();
        double grain = subject.grain();
        for (InspectedPrim item : leaves(subject)) {
            Mesh mesh = item.mesh().orElse(null);
            if (mesh == null) {
                continue;
            }
            List<InspectedPrim> here =
                    standing.computeIfAbsent(Standing.of(mesh, item.ownBounds(), grain), key -> new ArrayList<>());
            here.stream()
                    .filter(other -> samePoints(item, other, grain))
                    .findFirst()
                    .ifPresentOrElse(
                            other -> found.add(
                                    item.path(),
                                    item.title() + " stands exactly where " + other.title() + " does",
                                    List.of(other.path(), item.path()),
                                    item.own() ? Fix.of("Remove it", tidying -> tidying.remove(item.path())) : null),
                            () -> here.add(item));
        }
    }

    private static boolean samePoints(InspectedPrim one, InspectedPrim other, double grain) {
        double[] a = placed(one);
        double[] b = placed(other);
        if (a.length != b.length) {
            return false;
        }
        pantry.mesh.PointGrid grid = new pantry.mesh.PointGrid(b, Math.max(grain, reach(b)));
        for (int i = 0; i < a.length; i += 3) {
            if (grid.nearest(a[i], a[i + 1], a[i + 2], 4 * grain) < 0) {
                return false;
            }
        }
        return true;
    }

    private static double reach(double[] points) {
        double reach = 0;
        for (double number : points) {
            reach = Math.max(reach, Math.abs(number));
        }
        return reach;
    }

    private static double[] placed(InspectedPrim item) {
        Mesh mesh = item.mesh().orElseThrow();
        double[] placed = new double[mesh.points().length];
        for (int p = 0; p < mesh.pointCount(); p++) {
            Vec3 world = item.world().point(mesh.point(p));
            placed[3 * p] = world.x();
            placed[3 * p + 1] = world.y();
            placed[3 * p + 2] = world.z();
        }
        return placed;
    }

    private static void farParts(Subject subject, Limits limits, Findings found) {
        List<InspectedPrim> leaves = leaves(subject);
        int count = leaves.size();
        if (count < 3) {
            return;
        }
        Box3[] after = new Box3[count + 1];
        after[count] = Box3.EMPTY;
        for (int i = count - 1; i >= 0; i--) {
            after[i] = after[i + 1].union(leaves.get(i).bounds());
        }
        Box3 before = Box3.EMPTY;
        for (int i = 0; i < count; i++) {
            InspectedPrim item = leaves.get(i);
            Box3 rest = before.union(after[i + 1]);
            double gap = gap(item.bounds(), rest);
            if (gap > limits.number("distance") * rest.size().length()
                    && gap > item.bounds().size().length()) {
                found.add(
                        item.path(),
                        item.title() + " is " + DisplayText.length(gap) + " away from the rest",
                        item.own() ? Fix.removing("Remove it", tidying -> tidying.remove(item.path())) : null);
            }
            before = before.union(item.bounds());
        }
    }

    /** The distance between two boxes. */
    private static double gap(Box3 one, Box3 other) {
        double sum = 0;
        for (int axis = 0; axis < 3; axis++) {
            double gap = Math.max(
                    0,
                    Math.max(
                            one.min().get(axis) - other.max().get(axis),
                            other.min().get(axis) - one.max().get(axis)));
            sum += gap * gap;
        }
        return Math.sqrt(sum);
    }

    private static void offAxes(Subject subject, Limits limits, Findings found) {
        if (subject.drawn().isEmpty()) {
            return;
        }
        PlanBox plan = PlanBox.of(subject.model());
        if (Math.abs(plan.turn()) > 0.5 && plan.area() < limits.number("share") * plan.upright()) {
            found.add(
                    subject.topPath(),
                    String.format(java.util.Locale.ROOT, "it is turned by %.1f° off the axes", -plan.turn()),
                    standing(subject, "Turn it", Pivots.Stand.ALIGN));
        }
    }

    private static void offGround(Subject subject, Limits limits, Findings found) {
        Box3 box = subject.drawn();
        if (!box.isEmpty()
                && Math.abs(box.min().y())
                        > Math.max(
                                subject.grain(),
                                limits.number("share") * box.size().length())) {
            found.add(
                    subject.topPath(),
                    "its lowest point is "
                            + DisplayText.length(Math.abs(box.min().y()))
                            + (box.min().y() > 0 ? " above" : " below") + " the ground",
                    standing(subject, "Put it on the ground", Pivots.Stand.GROUND));
        }
    }

    private static void offCentre(Subject subject, Limits limits, Findings found) {
        Box3 box = subject.drawn();
        if (box.isEmpty()) {
            return;
        }
        double off = Math.hypot(box.centre().x(), box.centre().z());
        double width = Math.max(box.size().x(), box.size().z());
        // What is held at a corner or an edge on purpose has the origin in its plan.
        boolean outside = box.min().x() > 0
                || box.max().x() < 0
                || box.min().z() > 0
                || box.max().z() < 0;
        if (outside && off > limits.number("share") * width) {
            found.add(
                    subject.topPath(),
                    "the middle of its base is " + DisplayText.length(off) + " beside its pivot",
                    standing(subject, "Centre it", Pivots.Stand.CENTRE));
        }
    }

    private static @Nullable Fix standing(Subject subject, String label, Pivots.Stand stand) {
        return Pivots.canMoveAll(subject)
                ? Fix.moving(label, tidying -> Pivots.moveAll(tidying, subject, Pivots.standing(subject, stand)))
                : null;
    }

    private static boolean isPart(InspectedPrim item) {
        return item.parent() != null
                && !item.isInstance()
                && Subject.isObject(item)
                && item.isDrawn()
                && !item.bounds().isEmpty()
                && (item.mesh().isPresent() || item.prim().typeName().equals("Xform"));
    }

    /** What hangs on joints is turned by these, wherever its pivot is. */
    private static boolean hangs(InspectedPrim part) {
        return part.mesh().flatMap(Skin::of).isPresent();
    }

    private static void pivotsInOnePlace(Subject subject, Limits limits, Findings found) {
        for (InspectedPrim parent : subject.items().toList()) {
            List<InspectedPrim> parts = parent.children().stream()
                    .filter(part -> isPart(part) && !hangs(part))
                    .toList();
            if (parts.size() >= limits.number("parts") && areTogether(parts, subject.grain())) {
                List<InspectedPrim> movable = parts.stream()
                        .filter(part -> Pivots.canReframe(subject, part))
                        .toList();
                found.add(
                        parent.path(),
                        DisplayText.count(parts.size(), "part") + " of " + parent.title()
                                + " have their pivots in one place",
                        parts.stream().map(InspectedPrim::path).toList(),
                        movable.isEmpty()
                                ? null
                                : Fix.of(
                                        "Pivot of each to the middle of its base",
                                        tidying -> movable.forEach(part ->
                                                Pivots.hold(tidying, subject, part, Instances.base(part.bounds())))));
            }
        }
    }

    /** Pivots in one place, which is outside of more than half of the parts. */
    private static boolean areTogether(List<InspectedPrim> parts, double grain) {
        Vec3 first = parts.getFirst().pivot();
        long outside = parts.stream()
                .filter(part -> gap(new Box3(first, first), part.bounds()) > grain)
                .count();
        return 2 * outside > parts.size()
                && parts.stream().allMatch(part -> part.pivot().minus(first).length() <= 4 * grain);
    }

    private static void pivotOutside(Subject subject, Limits limits, Findings found) {
        double grain = subject.grain();
        subject.objects()
                .filter(item -> isPart(item) && item.mesh().isPresent())
                .filter(item -> {
                    List<InspectedPrim> parts = item.parent().children().stream()
                            .filter(StructureRules::isPart)
                            .toList();
                    return parts.size() < 2 || !areTogether(parts, grain);
                })
                .forEach(item -> {
                    double gap = gap(new Box3(item.pivot(), item.pivot()), item.bounds());
                    if (gap > limits.number("distance") * item.bounds().size().length() && gap > grain) {
                        found.add(
                                item.path(),
                                "the pivot of " + item.title() + " is " + DisplayText.length(gap) + " outside of it",
                                Pivots.canReframe(subject, item)
                                        ? Fix.of(
                                                "Pivot to the middle of its base",
                                                tidying -> Pivots.hold(
                                                        tidying, subject, item, Instances.base(item.bounds())))
                                        : null);
                    }
                });
    }
}
