package pantry.render;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/** What is to be drawn: meshes, and their instances. Immutable; may be drawn by several renderers. */
public final class RenderScene {
    public static final RenderScene EMPTY = of(new Model("Empty", List.of(), Model.Extras.NONE), new RenderCache());

    final List<DrawInstance> instances;
    private final Owners owners;
    private final Box3 bounds;
    private final Box3[] ownerBounds;
    private final long triangles;
    private @Nullable ContactShadow shadow;

    /** The shadow before things were moved, for the time until it is wanted exactly. */
    private @Nullable ContactShadow earlier;

    private final @Nullable Lighting lighting;

    /** Texture coordinates that are told otherwise by an image's place on the surface. */
    private record Placed(float[] uvs, Texture.Placement placement) {
        @Override
        public boolean equals(@Nullable Object o) {
            return o instanceof Placed other && other.uvs == uvs && other.placement.equals(placement);
        }

        @Override
        public int hashCode() {
            return 31 * System.identityHashCode(uvs) + placement.hashCode();
        }
    }

    private RenderScene(List<DrawInstance> instances, Owners owners, Box3 bounds, Box3[] ownerBounds) {
        this(instances, owners, bounds, ownerBounds, null);
    }

    private RenderScene(
            List<DrawInstance> instances, Owners owners, Box3 bounds, Box3[] ownerBounds, @Nullable Lighting lighting) {
        this.lighting = lighting;
        this.instances = instances;
        this.owners = owners;
        this.bounds = bounds;
        this.ownerBounds = ownerBounds;
        this.triangles =
                instances.stream().mapToLong(use -> use.mesh().triangleCount()).sum();
    }

    /** Where more triangles than this are drawn, meshes that are used often get coarser levels. */
    private static final long MANY = 400_000;

    private static final int OFTEN = 8;

    /** Prepares a model; meshes that the cache knows cost nothing, the others are prepared on all cores. */
    public static RenderScene of(Model model, RenderCache cache) {
        Map<Mesh, int[]> counts = new IdentityHashMap<>();
        long[] all = {0};
        model.visit((owner, part, world) -> {
            counts.computeIfAbsent(part.mesh(), mesh -> new int[1])[0]++;
            all[0] += part.mesh().triangleCount();
        });
        List<Mesh> meshes = List.copyOf(counts.keySet());
        RenderMesh[] made = new RenderMesh[meshes.size()];
        IntStream.range(0, made.length)
                .parallel()
                .forEach(i ->
                        made[i] = cache.mesh(meshes.get(i), all[0] > MANY && counts.get(meshes.get(i))[0] >= OFTEN));
        Map<Mesh, RenderMesh> ready = new IdentityHashMap<>();
        for (int i = 0; i < made.length; i++) {
            ready.put(meshes.get(i), made[i]);
        }
        Map<Material, RenderMaterial> surfaces = new HashMap<>();
        Map<Placed, float[]> placed = new HashMap<>();
        Map<String, Integer> owners = new LinkedHashMap<>();
        List<Matrix4> places = new ArrayList<>();
        List<Box3> ownerBounds = new ArrayList<>();
        List<DrawInstance> instances = new ArrayList<>();
        Box3[] bounds = {Box3.EMPTY};
        model.visitPlaced((owner, place, part, world) -> {
            int number = owners.computeIfAbsent(owner.path(), path -> {
                places.add(place);
                return owners.size();
            });
            Box3 box = part.mesh().bounds().transformed(world);
            bounds[0] = bounds[0].union(box);
            if (number == ownerBounds.size()) {
                ownerBounds.add(box);
            } else {
                ownerBounds.set(number, ownerBounds.get(number).union(box));
            }
            RenderMesh mesh = ready.get(part.mesh());
            RenderMaterial surface = surfaces.computeIfAbsent(part.material(), material -> surface(material, cache));
            Texture.Placement placement = surface.sampling().placement();
            float[] uvs = mesh.uvs(placement.uvSet());
            if (uvs != null && !placement.inPlace()) {
                uvs = placed.computeIfAbsent(
                        new Placed(uvs, placement), key -> key.placement().placed(key.uvs()));
            }
            instances.add(DrawInstance.of(mesh, surface, uvs, world, number));
        });
        return new RenderScene(
                List.copyOf(instances),
                new Owners(List.copyOf(owners.keySet()), places.toArray(Matrix4[]::new)),
                bounds[0],
                ownerBounds.toArray(Box3[]::new));
    }

    private static RenderMaterial surface(Material m, RenderCache cache) {
        Image image = m.texture(Material.Slot.BASE)
                .flatMap(Texture::file)
                .flatMap(cache::image)
                .orElse(null);
        return new RenderMaterial(
                m.base().r(),
                m.base().g(),
                m.base().b(),
                m.emissive().r(),
                m.emissive().g(),
                m.emissive().b(),
                m.metallic(),
                m.roughness(),
                m.opacity(),
                m.finish().coloured(),
                image,
                m.texture(Material.Slot.BASE).map(Texture::sampling).orElse(Texture.Sampling.USUAL),
                m.finish().clearcoat(),
                m.finish().clearcoatRoughness(),
                reflectance(m.finish().ior()),
                m.finish().cutoff(),
                SurfaceMaps.of(m, cache));
    }

    /** By A. Fresnel's equations for light that falls straight on it, as a share of what an index of 1.5 gives. */
    private static float reflectance(float ior) {
        float root = (ior - 1) / (ior + 1);
        return ior > 0 ? root * root / 0.04f : 1;
    }

    /** This scene in the light that it stands in, doubled as many times more; Pantry's own light stays as it is. */
    public RenderScene brighter(double stops) {
        return lighting == null ? this : with(lighting.brighter(stops));
    }

    /** This scene in the light that another stands in. */
    public RenderScene inLightOf(RenderScene other) {
        return lighting == other.lighting ? this : with(other.lighting);
    }

    /** This scene in another light. */
    RenderScene with(@Nullable Lighting light) {
        RenderScene scene = new RenderScene(instances, owners, bounds, ownerBounds, light);
        scene.shadow = shadow;
        scene.earlier = earlier;
        return scene;
    }

    /** The lamps that light it; empty where it stands in Pantry's own light. */
    Optional<Lighting> lighting() {
        return Optional.ofNullable(lighting);
    }

    /** The box around everything. */
    public Box3 bounds() {
        return bounds;
    }

    /** The boxes around the objects, for framing them closely. */
    public List<Box3> boxes() {
        return List.of(ownerBounds);
    }

    /**
     * Where an object stands.
     *
     * @param path its own
     * @param box around its surfaces
     * @param pivot its origin
     */
    public record Standing(String path, Box3 box, Vec3 pivot) {}

    /** Where all objects stand but one, and those below it. */
    public List<Standing> standingBut(String path) {
        boolean[] left = ownersBelow(Set.of(path));
        List<Standing> standing = new ArrayList<>();
        for (int i = 0; i < ownerBounds.length; i++) {
            if (!left[i] && !ownerBounds[i].isEmpty()) {
                standing.add(new Standing(
                        owners.path(i), ownerBounds[i], owners.place(i).translationPart()));
            }
        }
        return standing;
    }

    /** The edges of some objects and all below them as they lie in the plan, by their path. */
    public PlanEdges planEdges(String path) {
        boolean[] chosen = ownersBelow(Set.of(path));
        return PlanEdges.of(
                instances.stream().filter(use -> chosen[use.owner()]).toList());
    }

    /** The box around one object's surfaces. */
    public Optional<Box3> bounds(String owner) {
        return owners.number(owner).map(number -> ownerBounds[number]);
    }

    /** The box around some objects and all below them, by their paths. */
    public Box3 boundsBelow(String path) {
        Box3[] box = {Box3.EMPTY};
        owners.below(path, i -> box[0] = box[0].union(ownerBounds[i]));
        return box[0];
    }

    /**
     * This scene with objects and all below them moved, for showing a drag while it goes on; shadows stay.
     *
     * @param changes by path, from where each stands now to where it is to stand, in the world
     */
    public RenderScene moved(Map<String, Matrix4> changes) {
        Map<Integer, Matrix4> byOwner = new HashMap<>();
        changes.forEach((path, change) -> owners.below(path, number -> byOwner.put(number, change)));
        RenderScene scene = new RenderScene(changed(byOwner), owners, bounds, ownerBounds, lighting);
        scene.shadow = shadowAtHand();
        return scene;
    }

    private List<DrawInstance> changed(Map<Integer, Matrix4> byOwner) {
        List<DrawInstance> moved = new ArrayList<>(instances);
        for (int u = 0; u < moved.size(); u++) {
            DrawInstance use = moved.get(u);
            Matrix4 change = byOwner.get(use.owner());
            if (change != null) {
                moved.set(u, use.at(use.world().times(change)));
            }
        }
        return moved;
    }

    /**
     * This scene after objects and all below them were moved for good.
     *
     * @param paths of what was moved
     * @param places tells where an object stands now, in the world, by its path
     */
    public RenderScene placed(Collection<String> paths, Function<String, Matrix4> places) {
        Map<Integer, Matrix4> byOwner = new HashMap<>();
        Owners moved = owners.copy();
        for (String path : paths) {
            owners.below(path, number -> {
                Matrix4 now = places.apply(owners.path(number));
                byOwner.put(number, owners.place(number).inverse().times(now));
                moved.setPlace(number, now);
            });
        }
        List<DrawInstance> changed = changed(byOwner);
        Box3[] boxes = ownerBounds.clone();
        byOwner.keySet().forEach(number -> boxes[number] = Box3.EMPTY);
        for (DrawInstance use : changed) {
            if (byOwner.containsKey(use.owner())) {
                boxes[use.owner()] = boxes[use.owner()].union(use.mesh().box().transformed(use.world()));
            }
        }
        Box3 all = Box3.EMPTY;
        for (Box3 box : boxes) {
            all = all.union(box);
        }
        RenderScene scene = new RenderScene(changed, moved, all, boxes);
        scene.earlier = shadow == null ? earlier : shadow;
        return scene;
    }

    /** The path of all that {@link #within} puts around a scene; none of a stage is like it. */
    public static final String SURROUNDINGS = "around";

    /** This scene without an object and what is below it. */
    public RenderScene without(String path) {
        boolean[] gone = ownersBelow(Set.of(path));
        List<DrawInstance> left =
                instances.stream().filter(use -> !gone[use.owner()]).toList();
        Box3[] boxes = ownerBounds.clone();
        Box3 all = Box3.EMPTY;
        for (int i = 0; i < boxes.length; i++) {
            boxes[i] = gone[i] ? Box3.EMPTY : boxes[i];
            all = all.union(boxes[i]);
        }
        return new RenderScene(left, owners, all, boxes, lighting);
    }

    /**
     * This scene with another faded around it, whose objects cannot be told apart. What is around counts in no box.
     *
     * @param place from the other's space to this one's
     */
    public RenderScene within(RenderScene around, Matrix4 place) {
        Map<RenderMaterial, RenderMaterial> faded = new HashMap<>();
        List<DrawInstance> all = new ArrayList<>(instances);
        for (DrawInstance use : around.instances) {
            all.add(DrawInstance.of(
                    use.mesh(),
                    faded.computeIfAbsent(use.surface(), RenderMaterial::faded),
                    use.uvs(),
                    use.world().times(place),
                    owners.size()));
        }
        Box3[] boxes = Arrays.copyOf(ownerBounds, ownerBounds.length + 1);
        boxes[ownerBounds.length] = Box3.EMPTY;
        return new RenderScene(all, owners.and(SURROUNDINGS), bounds, boxes, lighting);
    }

    /** This scene with all but one object and what is below it faded; as it is where there is no such object. */
    public RenderScene fadedBut(String path) {
        boolean[] kept = ownersBelow(Set.of(path));
        Map<RenderMaterial, RenderMaterial> faded = new HashMap<>();
        boolean any = false;
        List<DrawInstance> changed = new ArrayList<>(instances.size());
        for (DrawInstance use : instances) {
            any |= kept[use.owner()];
            changed.add(kept[use.owner()] ? use : use.of(faded.computeIfAbsent(use.surface(), RenderMaterial::faded)));
        }
        if (!any) {
            return this;
        }
        RenderScene scene = new RenderScene(changed, owners, bounds, ownerBounds, lighting);
        scene.earlier = shadow == null ? earlier : shadow;
        return scene;
    }

    /** Triangles as they are drawn. */
    public long triangles() {
        return triangles;
    }

    /** The path of the object behind a number in {@link Frame#ids}. */
    public Optional<String> owner(int id) {
        return id < 0 || id >= owners.size() ? Optional.empty() : Optional.of(owners.path(id));
    }

    /** Which objects are the given ones or lie below them. */
    boolean[] ownersBelow(Set<String> paths) {
        boolean[] chosen = new boolean[owners.size()];
        paths.forEach(path -> owners.below(path, number -> chosen[number] = true));
        return chosen;
    }

    /** Which instances belong to what is selected; of what is selected in parts, those in the middle of a part's box. */
    boolean[] selectedUses(RenderOptions options) {
        boolean[] whole = new boolean[owners.size()];
        Map<Integer, List<Box3>> parts = new HashMap<>();
        options.selected()
                .forEach(path -> owners.below(path, number -> {
                    List<Box3> boxes = options.parts().get(path);
                    if (boxes == null) {
                        whole[number] = true;
                    } else {
                        parts.put(number, boxes);
                    }
                }));
        boolean[] chosen = new boolean[instances.size()];
        for (int i = 0; i < chosen.length; i++) {
            DrawInstance use = instances.get(i);
            chosen[i] = whole[use.owner()]
                    || parts.getOrDefault(use.owner(), List.of()).stream()
                            .anyMatch(box -> box.contains(
                                    new Vec3(
                                            use.sphere().x(),
                                            use.sphere().y(),
                                            use.sphere().z()),
                                    1e-3));
        }
        return chosen;
    }

    /** The shadow, or what it was before things were moved where it is not made yet. */
    synchronized ContactShadow shadowAtHand() {
        return shadow == null && earlier != null ? earlier : shadow();
    }

    synchronized ContactShadow shadow() {
        ContactShadow known = shadow;
        if (known == null) {
            known = ContactShadow.below(instances, bounds);
            shadow = known;
        }
        return known;
    }
}
