package pantry.exchange.usd;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.format.SampleNodes;
import pantry.exchange.format.Samples;
import pantry.mesh.Mesh;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.UdimTiles;
import pantry.shading.NetworkBaker;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Bounds;
import pantry.usd.schema.Imageable;
import pantry.usd.schema.MaterialBindings;
import pantry.usd.schema.PointInstancer;
import pantry.usd.schema.Values;
import pantry.usd.schema.Xforms;

/**
 * Reads the drawn surfaces of a stage: meshes and the simple solids, visible, active, of default or render purpose,
 * point instancers' uses included. What instances share is read once.
 */
public final class UsdModelReader {
    /** Shapes that are kept in their files and not drawn. */
    private static final Set<String> NOT_DRAWN =
            Set.of("HermiteCurves", "NurbsCurves", "NurbsPatch", "TetMesh", "Volume");

    /** What no surface is, though some of it is drawn as one. */
    private static final Set<String> FOREIGN = Set.of(UsdLines.CURVES, UsdLines.POINTS, "SkelAnimation", "Skeleton");

    /** Whether prims of a type are shapes that are kept in their files and not drawn. */
    public static boolean isKeptOnly(String type) {
        return NOT_DRAWN.contains(type);
    }

    private final Stage stage;
    private final MaterialBindings bindings;
    private final NodeCache.Reading known;
    private final List<String> problems = new ArrayList<>();
    private final UsdMeshReader geometry;
    private final UsdMaterialReader materials;
    private final Set<String> purposes;
    private final Predicate<SdfPath> light;
    private final Predicate<SdfPath> leftOut;
    /** The shapes that are kept and not drawn, each told of once however often it is met. */
    private final Set<SdfPath> kept = new HashSet<>();

    private NodeCache.Gathering gathered = new NodeCache.Gathering();

    /** A stage's model, and what of it could not be drawn. */
    public record Result(Model model, List<String> problems) {}

    /**
     * What holds for a prim by those above it.
     *
     * @param outer binding that holds around a prototype's contents
     * @param colour to be displayed where there is no material
     * @param light whether proxies stand in for what is beside them
     * @param shared whether it is read for several uses, so that no path of a use is known
     */
    private record Context(
            Imageable seen,
            Optional<MaterialBindings.Binding> outer,
            Optional<Colour> colour,
            boolean light,
            boolean shared) {
        static final Context ROOT = new Context(Imageable.ROOT, Optional.empty(), Optional.empty(), false, false);

        /** What holds within contents that are shared, wherever it is said: so those that look alike are one. */
        Context around(Optional<MaterialBindings.Binding> binding) {
            return new Context(
                    seen,
                    binding.map(
                            b -> new MaterialBindings.Binding(b.material(), SdfPath.ROOT, b.strongerThanDescendants())),
                    colour,
                    light,
                    true);
        }
    }

    /** Contents that are read once: what is shared, and what holds around it. */
    private record Shared(Prim prim, Context context) {}

    /**
     * What prims are read of a stage, and by what stand-ins.
     *
     * @param key what two readings have in common whose nodes can be exchanged
     */
    private record Choice(Set<String> purposes, Predicate<SdfPath> light, Predicate<SdfPath> leftOut, Object key) {}

    private UsdModelReader(Stage stage, MeshCache meshes, Choice choice, NodeCache known) {
        this.purposes = choice.purposes();
        this.light = choice.light();
        this.leftOut = choice.leftOut();
        this.stage = stage;
        this.known = known.reading(choice.key());
        this.bindings = new MaterialBindings(stage);
        this.geometry = new UsdMeshReader(meshes, known.solids(), problems);
        this.materials = new UsdMaterialReader(stage, problems);
    }

    /** The purposes of what is rendered. */
    public static final Set<String> RENDERED = Bounds.DRAWN;

    /** The purpose of light stand-ins. */
    public static final Set<String> LIGHT = Set.of("proxy");

    private static final Set<String> GUIDES = Set.of("guide");

    /** Reads what is rendered of a whole stage, in the stage's own unit and axes. */
    public static Result read(Stage stage, MeshCache meshes) {
        return read(stage, meshes, RENDERED);
    }

    /** Reads what is of some purposes, as {@code UsdGeomImageable} names them. */
    public static Result read(Stage stage, MeshCache meshes, Set<String> purposes) {
        Choice choice = new Choice(purposes, path -> false, path -> false, Viewing.WHOLE);
        return new UsdModelReader(stage, meshes, choice, new NodeCache()).read();
    }

    /**
     * Reads what is shown while working: what is rendered, but for some prims and all below them their proxies, where
     * they have one.
     *
     * @param light prims that are shown by their proxies
     * @param leftOut prims that are not shown
     */
    public static Result readForWork(
            Stage stage, MeshCache meshes, Predicate<SdfPath> light, Predicate<SdfPath> leftOut) {
        Choice choice = new Choice(RENDERED, light, leftOut, Viewing.WHOLE);
        return new UsdModelReader(stage, meshes, choice, new NodeCache()).read();
    }

    /**
     * What is seen of a stage: what is rendered, and where nothing is, as of a material by itself, the balls that show it, which
     * are guides, so that they are in nobody's way elsewhere; of a material part, a ball that is made for it.
     *
     * @param rendered as it was read of the stage
     */
    public static Model withSamples(Stage stage, MeshCache meshes, Model rendered) {
        Optional<Prim> part = rendered.meshes().isEmpty() ? part(stage) : Optional.empty();
        if (part.isPresent()) {
            return sample(stage, part.get());
        }
        return rendered.meshes().isEmpty()
                ? read(stage, meshes, GUIDES)
                        .model()
                        .without(node -> !node.parts().isEmpty() && !SampleNodes.isSample(node.name()))
                : rendered;
    }

    /** The graph that a stage is there for, as a layer of a material part is; empty where its roots are something else. */
    public static Optional<Prim> part(Stage stage) {
        return stage.root().children().stream()
                .filter(prim -> prim.typeName().equals("NodeGraph") && prim.isDefined() && !prim.isAbstract())
                .findFirst();
    }

    /** Reads a graph of shading nodes. */
    public static ShaderNetwork.Graph graph(Stage stage, Prim part) {
        return new UsdNetworkReader(stage, path -> {}).graph(part);
    }

    private static Model sample(Stage stage, Prim part) {
        try {
            return Samples.part(part.name(), graph(stage, part), NetworkBaker.USUAL_SIZE / 2, Progress.NONE)
                    .model();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Reads what is shown while working, but for what is as it was read before; problems are told of what is read anew.
     *
     * @param isPlacement whether a prim is a placement, which may be shown by its proxy
     * @param known is told of all that changes of the stage
     */
    public static Result readAgain(
            Stage stage, MeshCache meshes, Viewing chosen, Predicate<SdfPath> isPlacement, NodeCache known) {
        Predicate<SdfPath> light = path -> isPlacement.test(path) && chosen.isByProxy(path);
        Choice choice = new Choice(RENDERED, light, chosen::isLeftOut, chosen);
        UsdModelReader reader = new UsdModelReader(stage, meshes, choice, known);
        try {
            Result result = reader.read();
            if (reader.bindings.areByCollections()) {
                // What a collection holds depends on prims anywhere.
                known.forget(chosen);
            }
            return result;
        } catch (RuntimeException e) {
            known.forget(chosen);
            throw e;
        }
    }

    private Result read() {
        known.begin();
        Contents contents = contents(stage.root(), Context.ROOT, known.roots());
        known.end(contents.entries());
        String name = stage.rootLayer()
                .file()
                .map(file -> pantry.base.Names.stem(file.getFileName().toString()))
                .orElse("Stage");
        requireShowable(contents.nodes(), stage);
        return new Result(new Model(name, contents.nodes(), extras()), List.copyOf(problems));
    }

    /** What is no surface, each prim of it once. */
    private Model.Extras extras() {
        Map<SdfPath, NodeCache.Noted> once = new LinkedHashMap<>();
        gathered.outside(SdfPath.ROOT).noted().forEach(noted -> once.putIfAbsent(noted.prim(), noted));
        List<Fixture> fixtures = new ArrayList<>();
        Set<String> kinds = new TreeSet<>();
        int hidden = 0;
        for (NodeCache.Noted noted : once.values()) {
            noted.fixture().ifPresent(fixtures::add);
            noted.kind().ifPresent(kinds::add);
            hidden += noted.hidden() ? 1 : 0;
        }
        return new Model.Extras(fixtures, hidden, List.copyOf(kinds));
    }

    /** Contents that are shared within shared contents multiply: what would never be drawn or measured is refused. */
    private static void requireShowable(List<Model.Node> roots, Stage stage) {
        long most = stage.budget().limits().placements();
        if (Model.placements(roots, most) > most) {
            throw new UsdException(
                    stage.rootLayer().name(),
                    null,
                    "its instances within instances stand for more than " + most + " objects",
                    null);
        }
    }

    /** A material as a surface that is bound to it shows it; what cannot be read of it is plain. */
    public static Material material(Stage stage, Prim prim) {
        return new UsdMaterialReader(stage, new ArrayList<>()).bound(prim, prim.path());
    }

    /** Nothing is told in units smaller than atoms or larger than the way to the sun, metres. */
    private static final double LEAST_UNIT = 1e-12;

    private static final double MOST_UNIT = 1e12;

    /** Whether lengths can be told in a unit of that many metres. */
    public static boolean isUnit(double metres) {
        return metres >= LEAST_UNIT && metres <= MOST_UNIT;
    }

    /**
     * Metres per unit of a layer; the standard's fallback is a centimetre.
     *
     * @throws UsdException where it says something that no lengths can be told in
     */
    public static double metresPerUnit(Layer layer) {
        double unit = layer.number("metersPerUnit").filter(told -> told > 0).orElse(0.01);
        if (!isUnit(unit)) {
            throw new UsdException(
                    layer.name(),
                    "metersPerUnit",
                    "says that one unit is " + unit + " m, which nothing is told in",
                    null);
        }
        return unit;
    }

    /** The upward axis of a layer; the standard's fallback is Y. */
    public static Axis upAxis(Layer layer) {
        return layer.text("upAxis").filter("Z"::equals).isPresent() ? Axis.Z : Axis.Y;
    }

    /** From a layer's own unit and axes into metres with Y up. */
    public static Matrix4 toMetres(Layer layer) {
        return upAxis(layer).toMetres(metresPerUnit(layer));
    }

    /** What lies directly below a prim. */
    private record Contents(List<Model.Node> nodes, Map<String, NodeCache.Entry> entries) {}

    private List<Model.Node> nodes(Prim parent, Context context) {
        return contents(parent, context, Map.of()).nodes();
    }

    /** @param before what was read of the prims below the parent before, by their names */
    private Contents contents(Prim parent, Context context, Map<String, NodeCache.Entry> before) {
        stage.budget().step();
        List<Model.Node> nodes = new ArrayList<>();
        Map<String, NodeCache.Entry> entries = new HashMap<>();
        boolean standsIn = context.light() && hasProxy(parent, context);
        for (Prim prim : parent.children()) {
            if (prim.isActive() && !prim.isAbstract() && prim.isDefined() && !(standsIn && isReplaced(prim, context))) {
                NodeCache.Entry entry = entry(prim, context, before.get(prim.name()));
                entry.node().ifPresent(nodes::add);
                if (!context.shared()) {
                    entries.put(prim.name(), entry);
                }
            }
        }
        return new Contents(List.copyOf(nodes), entries);
    }

    private NodeCache.Entry entry(Prim prim, Context above, NodeCache.@Nullable Entry before) {
        if (before != null && known.holds(before, prim.path(), above)) {
            gathered.add(before.found());
            return before;
        }
        NodeCache.Gathering outer = gathered;
        gathered = new NodeCache.Gathering();
        Map<String, NodeCache.Entry> below = new HashMap<>();
        Optional<Model.Node> node = node(prim, above, known.below(before, prim.path()), below);
        NodeCache.Found found = gathered.outside(prim.path());
        gathered = outer;
        gathered.add(found);
        return new NodeCache.Entry(above, node, below.isEmpty() ? Map.of() : below, found);
    }

    private static boolean hasProxy(Prim parent, Context context) {
        return parent.children().stream()
                .anyMatch(prim -> prim.isActive()
                        && prim.isDefined()
                        && LIGHT.contains(context.seen().at(prim).purpose()));
    }

    private static boolean isReplaced(Prim prim, Context context) {
        return context.seen().at(prim).purpose().equals("render");
    }

    private boolean shows(String purpose, Context context) {
        return purposes.contains(purpose) || context.light() && LIGHT.contains(purpose);
    }

    /**
     * @param before what was read of the prims below it before
     * @param below takes what is read of them now
     */
    private Optional<Model.Node> node(
            Prim prim, Context above, Map<String, NodeCache.Entry> before, Map<String, NodeCache.Entry> below) {
        String type = prim.typeName();
        if (type.equals("Scope") && prim.name().equals("Materials")
                || type.equals("Material")
                || type.equals("Shader")
                || type.equals("GeomSubset")
                || !above.shared() && leftOut.test(prim.path())) {
            return Optional.empty();
        }
        Imageable seen = above.seen().at(prim);
        note(prim, type, seen);
        if (!seen.visible()) {
            return Optional.empty();
        }
        Optional<MaterialBindings.Binding> bound = bindings.of(prim, "preview", above.outer());
        Context context = new Context(
                seen,
                above.outer(),
                materials.displayColour(prim).or(above::colour),
                above.light() || light.test(prim.path()),
                above.shared());
        List<Model.Part> parts =
                shows(seen.purpose(), context) ? parts(prim, material(prim, bound, context)) : List.of();
        Optional<Prim> prototype = prim.prototype();
        List<Model.Node> children;
        if (type.equals(PointInstancer.TYPE)) {
            children = uses(prim, context.around(bound));
        } else if (prototype.isPresent()) {
            children = shared(prototype.get(), context.around(bound));
        } else {
            Contents contents = contents(prim, context, before);
            below.putAll(contents.entries());
            children = contents.nodes();
        }
        if (children.isEmpty() && !shows(seen.purpose(), context)) {
            return Optional.empty();
        }
        return Optional.of(new Model.Node(
                prim.text("displayName").orElse(prim.name()),
                prim.path().toString(),
                place(prim),
                parts,
                children,
                prototype.isPresent()));
    }

    private List<Model.Node> shared(Prim prototype, Context context) {
        Shared key = new Shared(prototype, context);
        NodeCache.Shared contents = known.shared(key).orElseGet(() -> {
            NodeCache.Gathering outer = gathered;
            gathered = new NodeCache.Gathering();
            List<Model.Node> nodes = nodes(prototype, context);
            NodeCache.Shared read = new NodeCache.Shared(nodes, gathered.sharedBy(prototype.path()));
            gathered = outer;
            known.share(key, read);
            return read;
        });
        gathered.add(contents.found());
        return contents.nodes();
    }

    /** From a prim's space to its parent's, also where the prim starts from the stage's. */
    static Matrix4 place(Prim prim) {
        Matrix4 local = Xforms.local(prim);
        return Xforms.resets(prim)
                ? local.times(prim.parent()
                        .map(Xforms::world)
                        .orElse(Matrix4.IDENTITY)
                        .inverse())
                : local;
    }

    /** The uses of a point instancer, each as a node that shares what it shows with the others. */
    private List<Model.Node> uses(Prim prim, Context context) {
        try {
            PointInstancer instancer = PointInstancer.of(prim);
            List<List<Model.Node>> used = new ArrayList<>();
            for (SdfPath path : instancer.prototypes()) {
                Optional<Prim> target = stage.prim(path);
                if (target.isEmpty()) {
                    problems.add("<" + prim.path() + "> uses a prototype that is not there: <" + path + ">");
                }
                gathered.source(path);
                used.add(target.flatMap(each -> entry(each, context, null).node()).stream()
                        .toList());
            }
            List<Model.Node> nodes = new ArrayList<>();
            for (int use = 0; use < instancer.count(); use++) {
                if (instancer.isShown(use)) {
                    String name = prim.name() + " " + use;
                    nodes.add(new Model.Node(
                            name,
                            prim.path().toString(),
                            instancer.transform(use),
                            List.of(),
                            used.get(instancer.prototype(use)),
                            true));
                }
            }
            return nodes;
        } catch (UsdException e) {
            problems.add(e.getMessage());
            return List.of();
        }
    }

    /** Takes note of what is not a surface, and of what is hidden. */
    private void note(Prim prim, String type, Imageable seen) {
        Optional<Fixture> fixture = UsdFixtures.of(prim);
        Optional<String> kind = Optional.empty();
        if (NOT_DRAWN.contains(type)) {
            kind = Optional.of(type + " " + prim.path());
            if (kept.add(prim.path())) {
                problems.add("<" + prim.path() + "> is a " + type + ", which is kept but not drawn");
            }
        } else if (FOREIGN.contains(type)) {
            kind = Optional.of(type + " " + prim.path());
        }
        if (fixture.isPresent() || kind.isPresent() || !seen.visible()) {
            gathered.note(new NodeCache.Noted(prim.path(), fixture, kind, !seen.visible()));
        }
    }

    private Material material(Prim prim, Optional<MaterialBindings.Binding> bound, Context context) {
        return bound.map(binding -> bound(prim, binding.material()))
                .or(() -> context.colour().map(materials::coloured))
                .orElse(Material.PLAIN);
    }

    private Material bound(Prim prim, SdfPath target) {
        Material material = materials.bound(prim, target);
        gathered.source(target);
        materials.sources(target).forEach(gathered::source);
        return material;
    }

    private List<Model.Part> parts(Prim prim, Material material) {
        return geometry.read(prim).map(mesh -> split(prim, mesh, material)).orElse(List.of()).stream()
                .flatMap(part -> UdimTiles.split(part).stream())
                .toList();
    }

    /** A mesh as one part, or as one for each subset that has a material of its own. */
    private List<Model.Part> split(Prim prim, Mesh mesh, Material material) {
        List<Model.Part> parts = new ArrayList<>();
        boolean[] taken = new boolean[mesh.faceCount()];
        for (Prim child : prim.children()) {
            int[] faces = child.typeName().equals("GeomSubset") ? Values.ints(child, "indices") : null;
            Optional<Material> own = faces == null
                    ? Optional.empty()
                    : bindings.of(child, "preview", Optional.empty())
                            .filter(binding -> binding.prim().equals(child.path()))
                            .map(binding -> bound(child, binding.material()));
            if (faces == null || own.isEmpty()) {
                continue;
            }
            for (int face : faces) {
                if (face < 0 || face >= taken.length) {
                    problems.add("<" + child.path() + ">: there is no face " + face);
                    return List.of(new Model.Part(mesh, material));
                }
                taken[face] = true;
            }
            parts.add(new Model.Part(mesh.faces(faces), own.get()));
        }
        if (parts.isEmpty()) {
            return List.of(new Model.Part(mesh, material));
        }
        int[] rest = java.util.stream.IntStream.range(0, taken.length)
                .filter(face -> !taken[face])
                .toArray();
        if (rest.length > 0) {
            parts.add(new Model.Part(mesh.faces(rest), material));
        }
        return parts;
    }
}
