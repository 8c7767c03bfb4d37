package pantry.exchange.worker;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.KeyCurve;
import pantry.exchange.format.MotionTrack;
import pantry.exchange.format.Rig;
import pantry.exchange.format.ShapeTrack;
import pantry.mesh.Mesh;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/** The joints and motions among what the worker handed over. Objects are named, and the first of a name is meant. */
final class WireRig {
    private final Path file;
    private final Wire wire;
    private final MemorySegment all;
    private final List<Wire.WireNode> nodes = new ArrayList<>();
    private final List<Integer> parents = new ArrayList<>();
    private final Map<String, Integer> byName = new HashMap<>();
    private final Rig rig;
    private final Map<Wire.WireMesh, Rig.Binding> bindings = new HashMap<>();

    /** By the names of meshes. */
    private final Map<String, List<String>> shapeNames = new HashMap<>();

    private final Set<String> taken = new HashSet<>();

    WireRig(Path file, Wire wire, MemorySegment all) {
        this.file = file;
        this.wire = wire;
        this.all = all;
        number(wire.root(), Skeleton.NONE);
        Set<Integer> moving = new HashSet<>();
        wire.meshes()
                .forEach(mesh -> mesh.bones().forEach(bone -> node(bone.node()).ifPresent(moving::add)));
        wire.motions().forEach(motion -> motion.tracks()
                .forEach(track -> node(track.node()).ifPresent(moving::add)));
        // Shapes belong to a skeleton: what has some and hangs on nothing is a joint itself.
        for (int number = 0; number < nodes.size(); number++) {
            for (int mesh : nodes.get(number).meshes()) {
                Wire.WireMesh shown = wire.meshes().get(mesh);
                if (!shown.shapes().isEmpty() && shown.bones().isEmpty()) {
                    moving.add(number);
                }
            }
        }
        if (FileKind.isOfMotion(file)) {
            // Where a bone ends is an object below its joint.
            for (int number = 0; number < nodes.size(); number++) {
                if (moving.contains(parents.get(number))) {
                    moving.add(number);
                }
            }
        }
        rig = new Rig(
                parents.stream().mapToInt(Integer::intValue).toArray(),
                number -> Matrix4.ofRows(nodes.get(number).transform()),
                number -> nodes.get(number).name(),
                moving);
        for (Wire.WireMesh mesh : wire.meshes()) {
            binding(mesh).ifPresent(binding -> bindings.put(mesh, binding));
        }
    }

    private void number(Wire.WireNode node, int parent) {
        int number = nodes.size();
        nodes.add(node);
        parents.add(parent);
        byName.putIfAbsent(node.name(), number);
        node.children().forEach(child -> number(child, number));
    }

    private Optional<Integer> node(String name) {
        return Optional.ofNullable(byName.get(name));
    }

    /** Whether nothing moves. */
    boolean isEmpty() {
        return rig.isEmpty();
    }

    /** Whether an object is a joint, by its place in the tree, top down. */
    boolean isJoint(int number) {
        return rig.isJoint(number);
    }

    /** A mesh as it hangs on what moves its object. */
    Mesh moved(Mesh mesh, int number) {
        return rig.moved(mesh, number);
    }

    /** Where a mesh that hangs on joints stands; empty where it hangs on none. */
    Optional<Matrix4> place(Wire.WireMesh mesh) {
        return Optional.ofNullable(bindings.get(mesh)).map(Rig.Binding::place);
    }

    private List<Wire.WireBone> bones(Wire.WireMesh mesh) {
        return mesh.bones().stream()
                .filter(bone -> node(bone.node()).isPresent())
                .filter(bone -> Matrix4.ofRows(bone.unbind()).isFinite()
                        && Matrix4.ofRows(bone.unbind()).determinant3() != 0)
                .toList();
    }

    private Optional<Rig.Binding> binding(Wire.WireMesh mesh) {
        List<Wire.WireBone> bones = bones(mesh);
        if (bones.isEmpty()) {
            return Optional.empty();
        }
        int[] joints =
                bones.stream().mapToInt(bone -> node(bone.node()).orElseThrow()).toArray();
        Matrix4[] unbind =
                bones.stream().map(bone -> Matrix4.ofRows(bone.unbind())).toArray(Matrix4[]::new);
        return Optional.of(rig.bind(joints, unbind));
    }

    /** The names of a mesh's shapes among all: those of one object are the same, though it is cut up by its materials. */
    private List<String> names(Wire.WireMesh mesh) {
        return shapeNames.computeIfAbsent(mesh.name(), object -> {
            List<String> names = new ArrayList<>();
            for (Wire.WireShape shape : mesh.shapes()) {
                String plain = shape.name().isBlank() ? "Shape " + (names.size() + 1) : shape.name();
                String name = Names.free(plain, taken::contains);
                taken.add(name);
                names.add(name);
            }
            return names;
        });
    }

    /** A mesh with its shapes; the same where it has none. */
    Mesh shaped(Wire.WireMesh told, Mesh mesh) {
        if (told.shapes().isEmpty()) {
            return mesh;
        }
        Map<String, BlendShapes.Shape> shapes = new LinkedHashMap<>();
        List<String> names = names(told);
        for (int i = 0; i < told.shapes().size() && i < names.size(); i++) {
            Wire.WireShape shape = told.shapes().get(i);
            float[] offsets = offsets(shape.points(), mesh.points());
            for (float offset : offsets) {
                if (!Float.isFinite(offset)) {
                    throw new ExchangeException(
                            file,
                            "mesh \"" + told.name() + "\": shape \"" + shape.name()
                                    + "\" has a point that is not a number or infinite");
                }
            }
            float[] normals = shape.normals() < 0 || mesh.normals().isEmpty()
                    ? null
                    : offsets(shape.normals(), mesh.normals().get().data());
            shapes.put(names.get(i), new BlendShapes.Shape(offsets, isFinite(normals) ? normals : null, Map.of()));
        }
        return BlendShapes.on(mesh, shapes);
    }

    private static boolean isFinite(float @Nullable [] numbers) {
        for (int i = 0; numbers != null && i < numbers.length; i++) {
            if (!Float.isFinite(numbers[i])) {
                return false;
            }
        }
        return true;
    }

    /** What is told as what becomes of numbers, as what is added to them. */
    private float[] offsets(long place, float[] from) {
        float[] offsets = floats(place, from.length);
        for (int i = 0; i < offsets.length; i++) {
            offsets[i] -= from[i];
        }
        return offsets;
    }

    private Optional<ShapeTrack> shapes(String motion, Wire.WireWeights weights) {
        String target = weights.target().replaceFirst("\\*\\d*$", "");
        Optional<Wire.WireMesh> mesh = wire.meshes().stream()
                .filter(each -> !each.shapes().isEmpty())
                .filter(each -> each.name().equals(target)
                        || node(target).stream()
                                .flatMapToInt(
                                        node -> Arrays.stream(nodes.get(node).meshes()))
                                .anyMatch(shown -> wire.meshes().get(shown) == each))
                .findFirst();
        if (mesh.isEmpty()) {
            return Optional.empty();
        }
        List<String> names = names(mesh.get());
        int width = Math.min(names.size(), weights.width());
        float[] told = floats(weights.values(), weights.count() * weights.width());
        float[] values = new float[weights.count() * width];
        for (int key = 0; key < weights.count(); key++) {
            System.arraycopy(told, key * weights.width(), values, key * width, width);
        }
        KeyCurve curve =
                new KeyCurve(floats(weights.times(), weights.count()), values, width, false, KeyCurve.Way.LINEAR);
        curve.fault().ifPresent(fault -> {
            throw new ExchangeException(file, "the motion \"" + motion + "\" of \"" + target + "\": " + fault);
        });
        return Optional.of(new ShapeTrack(names.subList(0, width), curve));
    }

    /** A mesh with the joints and weights of its points; the same where it hangs on none. */
    Mesh skinned(Wire.WireMesh told, Mesh mesh) {
        Rig.Binding binding = bindings.get(told);
        if (binding == null) {
            return mesh;
        }
        List<Wire.WireBone> bones = bones(told);
        int points = mesh.pointCount();
        int[] counts = new int[points];
        int width = 1;
        for (Wire.WireBone bone : bones) {
            for (int i = 0; i < bone.count(); i++) {
                width = Math.max(width, ++counts[point(told, bone, i, points)]);
            }
        }
        float[] joints = new float[points * width];
        float[] weights = new float[points * width];
        Arrays.fill(joints, binding.joints()[0]);
        Arrays.fill(counts, 0);
        // In the order of the joints, so that points at one place that hang on the same are told alike.
        for (int b = 0; b < bones.size(); b++) {
            for (int i = 0; i < bones.get(b).count(); i++) {
                int point = point(told, bones.get(b), i, points);
                float weight =
                        all.get(ValueLayout.JAVA_FLOAT_UNALIGNED, bones.get(b).weights() + 4L * i);
                if (!Float.isFinite(weight) || weight < 0) {
                    throw new ExchangeException(
                            file,
                            "mesh \"" + told.name() + "\": point " + point
                                    + " has a weight that is no number or negative");
                }
                int at = point * width + counts[point]++;
                joints[at] = binding.joints()[b];
                weights[at] = weight;
            }
        }
        return new Skin(width, joints, weights).on(mesh);
    }

    private int point(Wire.WireMesh mesh, Wire.WireBone bone, int index, int points) {
        int point = all.get(ValueLayout.JAVA_INT_UNALIGNED, bone.points() + 4L * index);
        if (point < 0 || point >= points) {
            throw new ExchangeException(
                    file,
                    "mesh \"" + mesh.name() + "\": point " + point + " of " + points + " hangs on \"" + bone.node()
                            + "\"");
        }
        return point;
    }

    /** The skeleton with its motions; none where nothing moves. */
    Optional<Skeleton> skeleton() {
        Optional<Skeleton> skeleton = rig.skeleton();
        if (skeleton.isEmpty()) {
            return skeleton;
        }
        List<Motion> motions = new ArrayList<>();
        for (Wire.WireMotion motion : wire.motions()) {
            String name = motion.name().isBlank() ? "Motion " + (motions.size() + 1) : motion.name();
            List<MotionTrack> tracks = new ArrayList<>();
            for (Wire.WireTrack track : motion.tracks()) {
                node(track.node()).ifPresent(node -> tracks.add(track(name, track, node)));
            }
            List<ShapeTrack> shapes = new ArrayList<>();
            motion.shapes().forEach(weights -> shapes(name, weights).ifPresent(shapes::add));
            try {
                rig.motion(name, tracks, shapes).ifPresent(motions::add);
            } catch (IllegalArgumentException e) {
                throw new ExchangeException(file, "the motion \"" + name + "\" " + e.getMessage(), e);
            }
        }
        return skeleton.map(bones -> bones.with(motions));
    }

    private MotionTrack track(String motion, Wire.WireTrack track, int node) {
        MotionTrack.Part part = MotionTrack.Part.valueOf(track.part());
        KeyCurve curve = new KeyCurve(
                floats(track.times(), track.count()),
                floats(track.values(), track.count() * part.width()),
                part.width(),
                part == MotionTrack.Part.TURN,
                KeyCurve.Way.LINEAR);
        curve.fault().ifPresent(fault -> {
            throw new ExchangeException(file, "the motion \"" + motion + "\" of \"" + track.node() + "\": " + fault);
        });
        return new MotionTrack(node, part, curve);
    }

    private float[] floats(long place, int count) {
        float[] data = new float[count];
        MemorySegment.copy(all, ValueLayout.JAVA_FLOAT_UNALIGNED, place, data, 0, count);
        return data;
    }
}
