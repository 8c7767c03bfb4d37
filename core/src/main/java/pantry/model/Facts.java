package pantry.model;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.mesh.Measures;
import pantry.motion.BlendShapes;

/**
 * What a file or version holds, in the field names that scripts rely on.
 *
 * @param vertices points, as stored in the faces' meshes
 * @param meshes meshes, each as often as it stands somewhere
 * @param parts connected parts
 * @param area square metres or square units
 * @param unit metres per unit as the file says; 0 where it does not
 * @param foreign what it carries that is neither surface, light nor camera
 * @param shape what tells shapes apart (see {@link ShapeDescriptor}); empty in versions sealed before there was one
 * @param objects the names of its objects, each once, at most {@value #MOST_NAMES}
 * @param variants the names of the variants that may be chosen, by the name of their set
 * @param colours the names of the colours that are seen most of in its picture; empty where there is none
 * @param up the axis that points up as the file says; empty where it does not
 * @param bones the joints of its skeleton
 * @param motions what they do; of versions sealed before there were any, none
 * @param shapes the names of what its meshes can be moved towards, each once; of versions sealed before there were any, none
 * @param joints of its skeleton, each with those above it, at most {@value #MOST_NAMES}; of versions sealed before they were told, none
 * @param strands its points and lines, which triangles only show, in words; of versions sealed before there were any, none
 */
public record Facts(
        String file,
        long triangles,
        long polygons,
        long vertices,
        int meshes,
        int parts,
        boolean closed,
        double area,
        double volume,
        Bounds bounds,
        double unit,
        String up,
        List<MaterialFact> materials,
        List<TextureFact> textures,
        int lights,
        int cameras,
        int hidden,
        List<String> foreign,
        String shape,
        List<String> objects,
        Map<String, List<String>> variants,
        List<String> colours,
        int bones,
        List<MotionFact> motions,
        List<String> shapes,
        List<String> joints,
        List<String> strands) {
    private static final int MOST_NAMES = 500;

    public Facts {
        objects = objects == null ? List.of() : List.copyOf(objects);
        variants = variants == null ? Map.of() : Collections.unmodifiableMap(new LinkedHashMap<>(variants));
        colours = colours == null ? List.of() : List.copyOf(colours);
        foreign = foreign == null ? List.of() : List.copyOf(foreign);
        shape = shape == null ? "" : shape;
        motions = motions == null ? List.of() : List.copyOf(motions);
        shapes = shapes == null ? List.of() : List.copyOf(shapes);
        joints = joints == null ? List.of() : List.copyOf(joints);
        strands = strands == null ? List.of() : List.copyOf(strands);
    }

    public record Bounds(double[] min, double[] max) {
        public static Bounds of(Box3 box) {
            return box.isEmpty()
                    ? new Bounds(new double[3], new double[3])
                    : new Bounds(numbers(box.min()), numbers(box.max()));
        }

        private static double[] numbers(Vec3 v) {
            return new double[] {v.x(), v.y(), v.z()};
        }

        /** Width, height and depth. */
        public Vec3 size() {
            return new Vec3(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
        }
    }

    /**
     * A material.
     *
     * @param nodes how many nodes it is made of, without its surface; 0 where it is values and images alone
     */
    public record MaterialFact(String name, int nodes) {
        /** Its name, with the number of its nodes where it has any. */
        public String words() {
            return nodes == 0 ? name : name + " (" + Names.counted(nodes, "node") + ")";
        }
    }

    public record TextureFact(String name, boolean found) {}

    /**
     * A motion.
     *
     * @param seconds from its first key to its last
     * @param keys times at which it tells how the joints stand
     */
    public record MotionFact(String name, double seconds, int keys) {}

    /** The facts of a model. */
    public static Facts of(String file, Model model, double unit, String up) {
        return of(file, model, model, unit, up);
    }

    /**
     * The facts of a model of which some is there only to show the rest.
     *
     * @param counted what of it has surfaces of its own, which are counted and measured; its bounds are those of all
     */
    public static Facts of(String file, Model model, Model counted, double unit, String up) {
        Measures m = counted.measures();
        int[] uses = {0};
        counted.visit((owner, part, world) -> uses[0]++);
        return new Facts(
                file,
                m.triangles(),
                m.polygons(),
                m.points(),
                uses[0],
                m.parts(),
                m.closed(),
                m.area(),
                m.volume(),
                Bounds.of(counted == model ? m.bounds() : model.bounds()),
                unit,
                up,
                model.materials().stream()
                        .map(material -> new MaterialFact(
                                material.name(),
                                material.network().map(ShaderNetwork::size).orElse(0)))
                        .toList(),
                model.textures().stream()
                        .map(texture -> new TextureFact(texture.name(), texture.found()))
                        .distinct()
                        .toList(),
                model.extras().lights(),
                model.extras().cameras(),
                model.extras().hidden(),
                model.extras().foreign(),
                ShapeDescriptor.of(model).code(),
                objects(model),
                Map.of(),
                List.of(),
                model.extras()
                        .skeleton()
                        .map(skeleton -> skeleton.joints().size())
                        .orElse(0),
                model.extras().skeleton().stream()
                        .flatMap(skeleton -> skeleton.motions().stream())
                        .map(motion -> new MotionFact(motion.name(), motion.seconds(), motion.times().length))
                        .toList(),
                model.meshes().stream()
                        .flatMap(mesh -> BlendShapes.of(mesh).keySet().stream())
                        .distinct()
                        .limit(MOST_NAMES)
                        .toList(),
                model.extras().skeleton().stream()
                        .flatMap(skeleton -> skeleton.tokens().stream())
                        .limit(MOST_NAMES)
                        .toList(),
                strands(model));
    }

    private static List<String> strands(Model model) {
        int[] counts = new int[2];
        model.visit((owner, part, world) -> part.strands().ifPresent(each -> {
            counts[0] += each.areLoose() ? each.pointCount() : 0;
            counts[1] += each.counts().length;
        }));
        return Stream.of(Names.counted(counts[0], "loose point"), Names.counted(counts[1], "line"))
                .filter(words -> !words.startsWith("0 "))
                .toList();
    }

    /**
     * What the file holds that is not understood here, in words; empty where there is nothing.
     *
     * @param most how many kinds are named before the rest is counted
     */
    public Optional<String> besides(int most) {
        if (foreign.isEmpty()) {
            return Optional.empty();
        }
        int more = foreign.size() - most;
        String named = foreign.stream().limit(most).collect(Collectors.joining("; "));
        return Optional.of(more > 0 ? named + "; and " + more + " more" : named);
    }

    private static List<String> objects(Model model) {
        Set<String> names = new LinkedHashSet<>();
        model.roots().forEach(root -> collect(root, names));
        return List.copyOf(names);
    }

    private static void collect(Model.Node node, Set<String> names) {
        if (names.size() < MOST_NAMES && names.add(node.name())) {
            node.children().forEach(child -> collect(child, names));
        } else if (names.size() < MOST_NAMES && !node.shared()) {
            node.children().forEach(child -> collect(child, names));
        }
    }

    /** These facts of a version with variants and a picture. */
    public Facts seen(Map<String, List<String>> newVariants, List<String> newColours) {
        return new Facts(
                file,
                triangles,
                polygons,
                vertices,
                meshes,
                parts,
                closed,
                area,
                volume,
                bounds,
                unit,
                up,
                materials,
                textures,
                lights,
                cameras,
                hidden,
                foreign,
                shape,
                objects,
                newVariants,
                newColours,
                bones,
                motions,
                shapes,
                joints,
                strands);
    }
}
