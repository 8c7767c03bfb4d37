package pantry.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.SampleNodes;
import pantry.mesh.Measures;
import pantry.model.Axis;
import pantry.model.Fixture;
import pantry.model.Model;

/**
 * What a file carries besides the thing itself: lights, cameras, the ground it stands on, the sky around it. Left out
 * unless wanted. Scripts and other foreign data are told, and never kept.
 *
 * @param objects the nodes that are it; none for lights, cameras and foreign data
 */
public record Carried(Kind kind, List<String> names, Set<Model.Node> objects) {
    /** What can be carried. */
    public enum Kind {
        LIGHTS,
        CAMERAS,
        GROUND,
        SKY,
        FOREIGN;

        public String word() {
            return this == FOREIGN ? "foreign data" : name().toLowerCase(Locale.ROOT);
        }

        /** So many of them, for a person. */
        public String counted(int count) {
            return switch (this) {
                case LIGHTS -> Names.counted(count, "light");
                case CAMERAS -> Names.counted(count, "camera");
                case GROUND -> "the ground";
                case SKY -> "the sky";
                case FOREIGN -> Names.counted(count, "piece") + " of foreign data";
            };
        }
    }

    /** What a file of lights and cameras is there for. */
    static final Set<Kind> FIXTURES = Set.of(Kind.LIGHTS, Kind.CAMERAS);

    private static final Pattern GROUND_NAMES =
            Pattern.compile("(?i).*(ground|floor|backdrop|shadow.?catcher|plane).*");
    private static final Pattern SKY_NAMES = Pattern.compile("(?i).*(sky|dome|hdri|environment|backdrop|horizon).*");

    /** A ground is so much wider than what stands on it; without a telling name, still wider. */
    private static final double WIDER = 1.5;

    private static final double FAR_WIDER = 3;

    /** And so thin, as a part of its width. */
    private static final double THIN = 0.01;

    /** What a model carries, each kind at most once. */
    public static List<Carried> of(Model model, Axis up) {
        List<Carried> carried = new ArrayList<>();
        add(carried, Kind.LIGHTS, names(model, Fixture.Light.class), Set.of());
        add(carried, Kind.CAMERAS, names(model, Fixture.Camera.class), Set.of());
        Surroundings surroundings = new Surroundings(model, up);
        add(carried, Kind.GROUND, surroundings.names(surroundings.grounds), surroundings.grounds);
        add(carried, Kind.SKY, surroundings.names(surroundings.skies), surroundings.skies);
        add(carried, Kind.FOREIGN, model.extras().foreign(), Set.of());
        return carried;
    }

    private static void add(List<Carried> to, Kind kind, List<String> names, Set<Model.Node> objects) {
        if (!names.isEmpty()) {
            to.add(new Carried(kind, names, objects));
        }
    }

    private static List<String> names(Model model, Class<?> type) {
        return model.extras().fixtures().stream()
                .filter(type::isInstance)
                .map(Fixture::name)
                .toList();
    }

    /** A model without what it carries, but for the kinds that are wanted. */
    public static Model without(Model model, Axis up, Set<Kind> kept) {
        Set<Model.Node> unwanted = java.util.Collections.newSetFromMap(new java.util.IdentityHashMap<>());
        Surroundings surroundings = new Surroundings(model, up);
        if (!kept.contains(Kind.GROUND)) {
            unwanted.addAll(surroundings.grounds);
        }
        if (!kept.contains(Kind.SKY)) {
            unwanted.addAll(surroundings.skies);
        }
        Model rest = unwanted.isEmpty() ? model : model.without(unwanted::contains);
        return rest.with(model.extras().keeping(fixture -> switch (fixture) {
            case Fixture.Light light -> kept.contains(Kind.LIGHTS);
            case Fixture.Camera camera -> kept.contains(Kind.CAMERAS);
        }));
    }

    /**
     * Finds grounds and skies among the objects. A ground is flat, lies at the bottom and is much wider than the rest;
     * a sky is around all the rest and looks inwards. A name that says so makes either certain sooner.
     */
    private static final class Surroundings {
        final Set<Model.Node> grounds = java.util.Collections.newSetFromMap(new java.util.IdentityHashMap<>());
        final Set<Model.Node> skies = java.util.Collections.newSetFromMap(new java.util.IdentityHashMap<>());
        private final Map<Model.Node, Box3> boxes = new java.util.IdentityHashMap<>();
        private final Matrix4 upright;

        Surroundings(Model model, Axis up) {
            upright = up.toYUp();
            List<Model.Node> leaves = new ArrayList<>();
            for (Model.Node root : model.roots()) {
                collect(root, Matrix4.IDENTITY, leaves);
            }
            // What only shows a light is none of its surroundings, whatever the light is called.
            leaves.removeIf(leaf -> SampleNodes.isSample(leaf.name()));
            if (leaves.size() < 2) {
                return;
            }
            judge(leaves, this::isSky, skies);
            leaves.removeAll(skies);
            judge(leaves, this::isGround, grounds);
            leaves.removeAll(grounds);
            if (leaves.isEmpty()) {
                grounds.clear();
                skies.clear();
            }
        }

        /** Objects with surfaces of their own, and none below them. */
        private void collect(Model.Node node, Matrix4 above, List<Model.Node> leaves) {
            Matrix4 world = node.local().times(above);
            if (!node.parts().isEmpty() && node.children().isEmpty()) {
                Box3 box = Box3.EMPTY;
                for (Model.Part part : node.parts()) {
                    box = box.union(part.mesh().bounds().transformed(world.times(upright)));
                }
                boxes.put(node, box);
                leaves.add(node);
            }
            if (!node.shared()) {
                node.children().forEach(child -> collect(child, world, leaves));
            }
        }

        private interface Question {
            boolean isSo(Model.Node leaf, Box3 box, Box3 rest);
        }

        /** Asks of each object, beside all the others, whether it is something. */
        private void judge(List<Model.Node> leaves, Question question, Set<Model.Node> found) {
            Box3[] after = new Box3[leaves.size() + 1];
            after[leaves.size()] = Box3.EMPTY;
            for (int i = leaves.size() - 1; i >= 0; i--) {
                after[i] = after[i + 1].union(boxes.get(leaves.get(i)));
            }
            Box3 before = Box3.EMPTY;
            for (int i = 0; i < leaves.size(); i++) {
                Box3 box = boxes.get(leaves.get(i));
                Box3 rest = before.union(after[i + 1]);
                if (!box.isEmpty() && !rest.isEmpty() && question.isSo(leaves.get(i), box, rest)) {
                    found.add(leaves.get(i));
                }
                before = before.union(box);
            }
        }

        private static double width(Box3 box) {
            return Math.max(1e-9, Math.max(box.size().x(), box.size().z()));
        }

        private boolean isGround(Model.Node leaf, Box3 box, Box3 rest) {
            Vec3 size = box.size();
            boolean flat = size.y() <= THIN * width(box) && Math.min(size.x(), size.z()) > 0;
            boolean below = box.max().y()
                    <= rest.min().y() + 0.05 * Math.max(rest.size().y(), width(rest) * 0.1);
            double wider = GROUND_NAMES.matcher(leaf.name()).matches() ? WIDER : FAR_WIDER;
            return flat && below && width(box) >= wider * width(rest);
        }

        private boolean isSky(Model.Node leaf, Box3 box, Box3 rest) {
            boolean around = box.min().x() <= rest.min().x()
                    && box.min().z() <= rest.min().z()
                    && box.max().x() >= rest.max().x()
                    && box.max().y() >= rest.max().y()
                    && box.max().z() >= rest.max().z();
            boolean named = SKY_NAMES.matcher(leaf.name()).matches();
            double wider = named ? WIDER : FAR_WIDER;
            return around && width(box) >= wider * width(rest) && (named || inwards(leaf));
        }

        private static boolean inwards(Model.Node leaf) {
            double volume = 0;
            for (Model.Part part : leaf.parts()) {
                volume += Measures.of(part.mesh(), Matrix4.IDENTITY).volume();
            }
            return volume < 0;
        }

        List<String> names(Set<Model.Node> nodes) {
            return nodes.stream().map(Model.Node::name).toList();
        }
    }
}
