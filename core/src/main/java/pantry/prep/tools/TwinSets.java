package pantry.prep.tools;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.twins.Twins;
import pantry.usd.SdfPath;
import pantry.usd.schema.Values;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Workpiece;

/** Objects of a workpiece that have one shape and could share it. */
public final class TwinSets {
    /**
     * One object of a set.
     *
     * @param place from the first object's own space to this one's
     * @param deviation how far a vertex of the first, so placed, is from its like; metres
     */
    public record Member(SdfPath path, Matrix4 place, double deviation, boolean mirrored, double scale) {}

    /**
     * Objects of one shape.
     *
     * @param members at least two; the first is the one that the others are told by
     * @param triangles of one of them
     * @param materials how many they are bound to
     */
    public record Set(List<Member> members, int triangles, int materials) {
        public Set {
            members = List.copyOf(members);
        }

        public double deviation() {
            return members.stream().mapToDouble(Member::deviation).max().orElse(0);
        }

        public boolean mirrored() {
            return members.stream().anyMatch(Member::mirrored);
        }

        /** The greatest size beside the first. */
        public double scale() {
            return members.stream()
                    .mapToDouble(Member::scale)
                    .boxed()
                    .max(java.util.Comparator.comparingDouble(scale -> Math.abs(Math.log(scale))))
                    .orElse(1.0);
        }

        public List<SdfPath> paths() {
            return members.stream().map(Member::path).toList();
        }

        /** Triangles that need no longer be stored. */
        public long saved() {
            return (long) triangles * (members.size() - 1);
        }
    }

    private TwinSets() {}

    /** What must be the same of twins beside their shape. */
    private record Look(String purpose, boolean seen, String subdivision, boolean doubleSided) {
        static Look of(InspectedPrim item) {
            return new Look(
                    item.purpose(),
                    item.seen(),
                    Values.token(item.prim(), "subdivisionScheme").orElse("catmullClark"),
                    Values.flag(item.prim(), "doubleSided"));
        }
    }

    /**
     * The sets of a workpiece, the one that saves most first.
     *
     * @param options the tolerance in metres
     */
    public static List<Set> find(Workpiece piece, TwinOptions options, Progress progress) {
        return find(new Subject(piece, progress), options);
    }

    public static List<Set> find(Subject subject, TwinOptions options) {
        Map<Look, List<InspectedPrim>> alike = new LinkedHashMap<>();
        subject.surfaces()
                .filter(item -> Subject.isObject(item)
                        && item.children().isEmpty()
                        && subject.isEditable(item)
                        && subject.isMovable(item)
                        && item.surface().faults().isEmpty())
                .forEach(item -> alike.computeIfAbsent(Look.of(item), look -> new ArrayList<>())
                        .add(item));
        List<Set> sets = new ArrayList<>();
        alike.values().stream()
                .filter(items -> items.size() > 1)
                .forEach(items -> sets.addAll(find(items, subject, options)));
        sets.sort(java.util.Comparator.comparingLong(Set::saved).reversed());
        return sets;
    }

    private static List<Set> find(List<InspectedPrim> items, Subject subject, TwinOptions options) {
        List<Twins.Surface> surfaces = items.stream()
                .map(item ->
                        new Twins.Surface(item.mesh().orElseThrow(), subject.isTextured(item), grown(item.world())))
                .toList();
        List<Set> sets = new ArrayList<>();
        for (TwinGroup group : Twins.find(surfaces, options, subject.progress())) {
            List<Member> members = group.members().stream()
                    .map(member -> new Member(
                            items.get(member.index()).path(),
                            member.place(),
                            member.deviation() * grown(items.get(member.index()).world()),
                            member.mirrored(),
                            member.scale()))
                    .toList();
            List<Optional<SdfPath>> materials = group.members().stream()
                    .map(member -> items.get(member.index()).material())
                    .distinct()
                    .toList();
            sets.add(new Set(members, group.triangles(), materials.size()));
        }
        return sets;
    }

    /** How much larger things stand in metres than their numbers say. */
    public static double grown(Matrix4 world) {
        double grown = Math.cbrt(Math.abs(world.determinant3()));
        return grown > 0 && Double.isFinite(grown) ? grown : 1;
    }

    /** Sets among the connected parts of one mesh. */
    public static List<TwinGroup> within(
            List<Mesh> parts, boolean textured, double grown, TwinOptions options, Progress progress) {
        return Twins.find(
                parts.stream()
                        .map(part -> new Twins.Surface(part, textured, grown))
                        .toList(),
                options,
                progress);
    }
}
