package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.KeyCurve;
import pantry.exchange.format.MotionTrack;
import pantry.exchange.format.Rig;
import pantry.model.Model;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Xforms;

/**
 * Objects of a stage whose transforms or visibility have time samples, as joints that they hang on as a whole. Where a turn changes, there is a
 * key for each time code, since its degrees are interpolated and not the shorter arc. What is not seen is made too small for that.
 */
public final class UsdObjectMotion {
    private static final String NAME = "Motion";

    private static final String VISIBILITY = "visibility";

    /** So small that it is not seen, and still a place that can be undone. */
    private static final Vec3 UNSEEN = new Vec3(1e-5, 1e-5, 1e-5);

    /** So many objects are looked at, those in instances each time that they stand somewhere. */
    private static final int MOST_OBJECTS = 50_000;

    /** A transform that differs by less is the one that was read. */
    private static final double NEAR = 1e-6;

    private static final int MOST_CODES = 20_000;

    private final Stage stage;
    private final List<Model.Node> nodes = new ArrayList<>();
    private final List<Integer> parents = new ArrayList<>();
    private final Map<Integer, Prim> moving = new HashMap<>();

    private UsdObjectMotion(Stage stage) {
        this.stage = stage;
    }

    /**
     * A model as it was read of a stage, with joints where objects move; the same where none does, or where things hang on a
     * skeleton already.
     */
    public static Model moved(Stage stage, Model model) {
        if (model.extras().skeleton().isPresent()) {
            return model;
        }
        UsdObjectMotion read = new UsdObjectMotion(stage);
        return read.number(model.roots(), Skeleton.NONE) && !read.moving.isEmpty() ? read.rigged(model) : model;
    }

    /** The times at which the transform of a prim changes, or whether it is seen, time codes; none where neither does. */
    public static Set<Double> times(Prim prim) {
        Set<Double> times = new TreeSet<>();
        visibility(prim).map(Attribute::times).ifPresent(times::addAll);
        for (String op : Xforms.attributes(prim)) {
            prim.attribute(op)
                    .map(Attribute::times)
                    .filter(own -> own.size() > 1)
                    .ifPresent(times::addAll);
        }
        return times;
    }

    private static Optional<Attribute> visibility(Prim prim) {
        return prim.attribute(VISIBILITY).filter(attribute -> attribute.times().size() > 1);
    }

    /** The transform of a prim at a time code; that of what is not seen then leaves nothing that could be. */
    public static Matrix4 place(Prim prim, double code) {
        Matrix4 local = Xforms.local(prim, code);
        boolean unseen = visibility(prim)
                .flatMap(attribute -> attribute.valueAt(code))
                .filter(value -> value instanceof Value.Token(String word) && word.equals("invisible"))
                .isPresent();
        return unseen ? Matrix4.scale(UNSEEN).times(local) : local;
    }

    /** @return whether there are few enough */
    private boolean number(List<Model.Node> list, int parent) {
        for (Model.Node node : list) {
            int number = nodes.size();
            if (number == MOST_OBJECTS) {
                return false;
            }
            nodes.add(node);
            parents.add(parent);
            mover(stage, node).ifPresent(prim -> moving.put(number, prim));
            if (!number(node.children(), number)) {
                return false;
            }
        }
        return true;
    }

    /** The prim of a node that was read of a stage, where its own transform is the node's and changes. */
    public static Optional<Prim> mover(Stage stage, Model.Node node) {
        // Most prims say nothing over time, which is sooner found out than where they stand.
        return Optional.of(node.path())
                .filter(path -> path.startsWith("/"))
                .flatMap(path -> stage.prim(SdfPath.of(path)))
                .filter(prim -> !times(prim).isEmpty())
                .filter(prim -> !Xforms.resets(prim) && Xforms.local(prim).isNear(node.local(), NEAR));
    }

    private Model rigged(Model model) {
        Rig rig = new Rig(
                parents.stream().mapToInt(Integer::intValue).toArray(),
                number -> nodes.get(number).local(),
                number -> nodes.get(number).name(),
                new HashSet<>(moving.keySet()));
        int[] next = {0};
        List<Model.Node> roots = hung(model.roots(), rig, next);
        double rate = UsdMotionReader.codesPerSecond(stage.rootLayer());
        List<MotionTrack> tracks = new ArrayList<>();
        moving.forEach((number, prim) -> tracks.addAll(tracks(number, prim, rate)));
        List<String> told = new ArrayList<>();
        Skeleton skeleton = rig.skeleton().orElseThrow();
        List<Motion> motions = new ArrayList<>();
        try {
            rig.motion(NAME, tracks, List.of()).ifPresent(motions::add);
        } catch (IllegalArgumentException e) {
            told.add("the motion of its objects " + e.getMessage());
        }
        Model.Extras extras = model.extras()
                .with(Optional.of(new Skeleton(skeleton.joints(), motions)))
                .telling(told);
        return new Model(model.name(), roots, extras);
    }

    private static List<Model.Node> hung(List<Model.Node> list, Rig rig, int[] next) {
        List<Model.Node> all = new ArrayList<>(list.size());
        for (Model.Node node : list) {
            int number = next[0]++;
            List<Model.Part> parts = node.parts().stream()
                    .map(part -> {
                        var mesh = rig.moved(part.mesh(), number);
                        return mesh == part.mesh() ? part : new Model.Part(mesh, part.material(), part.looks());
                    })
                    .toList();
            List<Model.Node> children = hung(node.children(), rig, next);
            boolean same = parts.equals(node.parts()) && children.equals(node.children());
            // What moves in one use of something shared does not move in all.
            all.add(same ? node : new Model.Node(node.name(), node.path(), node.local(), parts, children, false));
        }
        return all;
    }

    private static List<MotionTrack> tracks(int number, Prim prim, double rate) {
        TreeSet<Double> codes = new TreeSet<>(times(prim));
        boolean turns = visibility(prim).isPresent()
                || Xforms.attributes(prim).stream()
                        .filter(op -> op.contains(":rotate") || op.contains(":transform") || op.contains(":orient"))
                        .anyMatch(op -> prim.attribute(op)
                                .filter(each -> each.times().size() > 1)
                                .isPresent());
        if (turns && codes.last() - codes.first() <= MOST_CODES) {
            for (double code = Math.ceil(codes.first()); code < codes.last(); code++) {
                codes.add(code);
            }
        }
        float[] times = new float[codes.size()];
        float[] moves = new float[3 * times.length];
        float[] turned = new float[4 * times.length];
        float[] scales = new float[3 * times.length];
        int key = 0;
        for (double code : codes) {
            JointTransform place = JointTransform.of(place(prim, code));
            times[key] = (float) (code / rate);
            for (int axis = 0; axis < 3; axis++) {
                moves[3 * key + axis] = (float) place.move().get(axis);
                scales[3 * key + axis] = (float) place.scale().get(axis);
            }
            turned[4 * key] = (float) place.x();
            turned[4 * key + 1] = (float) place.y();
            turned[4 * key + 2] = (float) place.z();
            turned[4 * key + 3] = (float) place.w();
            key++;
        }
        List<MotionTrack> tracks = List.of(
                track(number, MotionTrack.Part.MOVE, times, moves),
                track(number, MotionTrack.Part.TURN, times, turned),
                track(number, MotionTrack.Part.SCALE, times, scales));
        // Times too near to each other, and what is no number, would be no motion.
        return tracks.stream().allMatch(track -> track.curve().fault().isEmpty()) ? tracks : List.of();
    }

    private static MotionTrack track(int number, MotionTrack.Part part, float[] times, float[] values) {
        boolean turn = part == MotionTrack.Part.TURN;
        return new MotionTrack(number, part, new KeyCurve(times, values, part.width(), turn, KeyCurve.Way.LINEAR));
    }
}
