package pantry.workpiece;

import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdMeshReader;
import pantry.exchange.usd.UsdModelReader;
import pantry.mesh.Mesh;
import pantry.mesh.MeshFaults;
import pantry.model.Model;
import pantry.motion.Skin;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Bounds;
import pantry.usd.schema.Imageable;
import pantry.usd.schema.MaterialBindings;
import pantry.usd.schema.Xforms;

/**
 * A workpiece as it is now, with what rules ask of it. What costs time is found when it is first asked for, and kept.
 * What instances show is not walked; their prototypes within the layer are, as definitions.
 */
public final class Subject {
    /** What tells of single points, edges or faces by their numbers, and cannot follow. */
    private static final Set<String> FIXED = Set.of(
            "cornerIndices", "cornerSharpnesses", "creaseIndices", "creaseLengths", "holeIndices", "skel:blendShapes");

    private final Workpiece workpiece;
    private final Stage stage;
    private final Matrix4 toMetres;
    private final MaterialBindings bindings;
    private final Bounds bounds;
    private final List<InspectedPrim> roots = new ArrayList<>();
    private final List<InspectedPrim> items = new ArrayList<>();
    private final Map<SdfPath, InspectedPrim> byPath = new LinkedHashMap<>();
    private final Progress progress;
    private @Nullable Map<Mesh, MeshFaults> faults;
    private @Nullable Model model;
    private @Nullable Textures textures;

    private final Optional<Surroundings> surroundings;

    public Subject(Workpiece workpiece, Progress progress) {
        this(workpiece, Optional.empty(), progress);
    }

    public Subject(Workpiece workpiece, Optional<Surroundings> surroundings, Progress progress) {
        this.workpiece = workpiece;
        this.surroundings = surroundings;
        this.progress = progress;
        this.stage = workpiece.stage();
        this.bindings = new MaterialBindings(stage);
        this.bounds = new Bounds(stage, Bounds.DRAWN);
        this.toMetres = UsdModelReader.toMetres(stage.rootLayer());
        for (Prim prim : stage.root().children()) {
            roots.add(add(prim, null, toMetres, Imageable.ROOT, true));
        }
    }

    private InspectedPrim add(
            Prim prim, @Nullable InspectedPrim parent, Matrix4 above, Imageable outer, boolean shown) {
        progress.step("reading " + prim.name(), 0);
        Imageable seen = outer.at(prim);
        Matrix4 local = Xforms.local(prim);
        Matrix4 world = local.times(Xforms.resets(prim) ? toMetres : above);
        boolean there = shown && prim.isActive() && prim.isDefined() && !prim.isAbstract();
        Surface surface = UsdMeshReader.isSurface(prim.typeName()) && prim.isActive()
                ? Surface.of(prim, workpiece.meshes())
                : Surface.NONE;
        Optional<SdfPath> material =
                surface.mesh().isPresent() || !prim.typeName().isEmpty()
                        ? bindings.of(prim, "preview", Optional.empty()).map(MaterialBindings.Binding::material)
                        : Optional.empty();
        InspectedPrim item = new InspectedPrim(
                prim,
                parent,
                new ArrayList<>(),
                local,
                world,
                there && seen.visible(),
                seen.purpose(),
                prim.broughtInFromAbove().isEmpty(),
                surface,
                material,
                new Box3[] {Box3.EMPTY});
        items.add(item);
        byPath.put(prim.path(), item);
        Box3 box = surface.mesh().map(mesh -> mesh.boundsIn(world)).orElse(Box3.EMPTY);
        if (prim.isInstance()) {
            box = box.union(bounds.local(prim).transformed(world));
        } else if (!prim.typeName().equals("Material")) {
            for (Prim child : prim.children()) {
                InspectedPrim below = add(child, item, world, seen, there);
                item.children().add(below);
                box = box.union(below.bounds());
            }
        }
        item.box()[0] = box;
        return item;
    }

    public Workpiece workpiece() {
        return workpiece;
    }

    /** The library around it. */
    public Optional<Surroundings> surroundings() {
        return surroundings;
    }

    public Stage stage() {
        return stage;
    }

    Matrix4 toMetres() {
        return toMetres;
    }

    /** Metres per unit of the layer. */
    double unit() {
        return UsdModelReader.metresPerUnit(stage.rootLayer());
    }

    public List<InspectedPrim> roots() {
        return roots;
    }

    /** All prims but the insides of materials and instances, each before those below it. */
    public Stream<InspectedPrim> items() {
        progress.step("inspecting", 0.5);
        return items.stream();
    }

    /** Those that make up what is to be seen, hidden ones included: neither materials nor definitions. */
    public Stream<InspectedPrim> objects() {
        return items().filter(item -> isObject(item));
    }

    public static boolean isObject(InspectedPrim item) {
        String type = item.prim().typeName();
        boolean kind = !List.of("Material", "Shader", "NodeGraph", "GeomSubset").contains(type)
                && !isMaterials(item)
                && item.prim().isDefined();
        for (InspectedPrim at = item; at != null && kind; at = at.parent()) {
            kind = !at.prim().isAbstract();
        }
        return kind;
    }

    static boolean isMaterials(InspectedPrim item) {
        return item.prim().typeName().equals("Scope")
                && !item.children().isEmpty()
                && item.children().stream()
                        .allMatch(child -> child.prim().typeName().equals("Material"));
    }

    /** Objects with a surface, whether they are seen or not. */
    public Stream<InspectedPrim> surfaces() {
        return items().filter(item -> item.mesh().isPresent());
    }

    public Optional<InspectedPrim> item(SdfPath path) {
        return Optional.ofNullable(byPath.get(path));
    }

    public List<InspectedPrim> materials() {
        return items().filter(item -> item.prim().typeName().equals("Material")).toList();
    }

    /** What is wrong with a surface of this. */
    public MeshFaults faults(Mesh mesh) {
        Map<Mesh, MeshFaults> known = faults;
        if (known == null) {
            Map<Mesh, MeshFaults> all = new IdentityHashMap<>();
            List<Mesh> meshes = new ArrayList<>();
            surfaces().forEach(item -> {
                if (all.put(item.mesh().orElseThrow(), NOT_YET) == null) {
                    meshes.add(item.mesh().orElseThrow());
                }
            });
            Function<Mesh, MeshFaults> find = each -> {
                progress.step("measuring surfaces", 0.5);
                return workpiece.faults(each);
            };
            List<MeshFaults> found = Parallel.map(meshes, find);
            for (int i = 0; i < meshes.size(); i++) {
                all.put(meshes.get(i), found.get(i));
            }
            faults = all;
            known = all;
        }
        return known.getOrDefault(mesh, NOT_YET);
    }

    private static final MeshFaults NOT_YET = MeshFaults.of(new Mesh(new float[0], new int[0], new int[0], null, null));

    /** What is drawn, in metres, Y up. */
    public Model model() {
        Model known = model;
        if (known == null) {
            known = workpiece.model();
            model = known;
        }
        return known;
    }

    /** The images that its materials use. */
    public Textures textures() {
        Textures known = textures;
        if (known == null) {
            known = Textures.of(materials());
            textures = known;
        }
        return known;
    }

    /** The box around what is drawn. */
    public Box3 drawn() {
        Box3 box = Box3.EMPTY;
        for (InspectedPrim item : items) {
            if (item.isDrawn() && (item.mesh().isPresent() || item.prim().isInstance())) {
                box = box.union(item.mesh().isPresent() ? item.ownBounds() : item.bounds());
            }
        }
        return box;
    }

    /** Whether a mesh's numbers can be changed: the layer itself says them, outright and once for all times. */
    public boolean isEditable(InspectedPrim item) {
        if (!item.own() || !item.prim().typeName().equals("Mesh") || !saysPoints(item.path())) {
            return false;
        }
        return item.prim().propertyNames().stream()
                .noneMatch(name -> FIXED.contains(name) || name.startsWith("primvars:skel:"));
    }

    /** Whether the joints that a mesh hangs on can be changed: the layer itself says them. */
    public boolean isSkinEditable(InspectedPrim item) {
        return item.own()
                && stage.rootLayer()
                        .prim(item.path())
                        .flatMap(spec -> spec.attribute("primvars:" + Skin.JOINTS))
                        .isPresent();
    }

    private boolean saysPoints(SdfPath path) {
        return stage.rootLayer()
                .prim(path)
                .flatMap(spec -> spec.attribute("points"))
                .filter(points -> points.hasValue() && points.timeSamples().isEmpty())
                .isPresent();
    }

    /** Whether an object can be given another transform: nothing of it moves in time, or starts anew. */
    public boolean isMovable(InspectedPrim item) {
        return item.own()
                && !Xforms.resets(item.prim())
                && item.prim().propertyNames().stream()
                        .filter(name -> name.startsWith("xformOp:"))
                        .allMatch(name -> item.prim()
                                .attribute(name)
                                .filter(op -> op.times().isEmpty())
                                .isPresent());
    }

    /** Whether a material reads an image. */
    public boolean isTextured(InspectedPrim item) {
        return item.material()
                .filter(material -> textures().uses().stream()
                        .anyMatch(use -> use.material().path().equals(material)))
                .isPresent();
    }

    /** The topmost object: the default prim, or else the first. */
    public Optional<InspectedPrim> top() {
        return stage.defaultPrim()
                .flatMap(prim -> item(prim.path()))
                .or(() -> roots.stream().filter(Subject::isObject).findFirst());
    }

    /** The path of the topmost object; the root where there is none. */
    public SdfPath topPath() {
        return top().map(InspectedPrim::path).orElse(SdfPath.ROOT);
    }

    /** The id of the asset that it is of; empty where it is of none. */
    public String assetId() {
        return workpiece.shelved().map(place -> place.asset().card().id()).orElse("");
    }

    /** Lengths that a model of this size cannot tell apart, metres. */
    public double grain() {
        Box3 box = drawn();
        if (box.isEmpty()) {
            return 1e-6;
        }
        double reach = Math.max(box.min().length(), box.max().length());
        return Math.max(1e-6, Math.max(box.size().length() * 1e-6, 4 * Math.ulp((float) reach)));
    }

    public Progress progress() {
        return progress;
    }
}
