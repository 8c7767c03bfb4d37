package pantry.render;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.Material;
import pantry.exchange.Model;
import pantry.exchange.Texture;
import pantry.mesh.Mesh;

/** What is to be drawn: meshes, and their uses. Immutable; may be drawn by several renderers. */
public final class RenderScene {
    public static final RenderScene EMPTY = of(new Model("Empty", List.of(), Model.Extras.NONE), new RenderCache());

    final List<Use> uses;
    private final List<String> owners;
    private final Box3 bounds;
    private final Box3[] ownerBounds;
    private final long triangles;
    private @Nullable ContactShadow shadow;

    /** One mesh where it stands. */
    record Use(
            RenderMesh mesh, Surface surface, float @Nullable [] uvs, Matrix4 world, float[] normalMatrix, int owner) {
        Use at(Matrix4 place) {
            return new Use(mesh, surface, uvs, place, RenderScene.normalMatrix(place), owner);
        }
    }

    /** Texture coordinates that are told otherwise by an image's place on the surface. */
    private record Placed(float[] uvs, Texture.Sampling sampling) {
        @Override
        public boolean equals(@Nullable Object o) {
            return o instanceof Placed other && other.uvs == uvs && other.sampling.equals(sampling);
        }

        @Override
        public int hashCode() {
            return 31 * System.identityHashCode(uvs) + sampling.hashCode();
        }
    }

    /** A material as the shading needs it. */
    record Surface(
            float r,
            float g,
            float b,
            float glowR,
            float glowG,
            float glowB,
            float metallic,
            float roughness,
            float opacity,
            boolean coloured,
            @Nullable Image image,
            Texture.Sampling sampling) {}

    private RenderScene(List<Use> uses, List<String> owners, Box3 bounds, Box3[] ownerBounds) {
        this.uses = uses;
        this.owners = owners;
        this.bounds = bounds;
        this.ownerBounds = ownerBounds;
        this.triangles =
                uses.stream().mapToLong(use -> use.mesh().triangleCount()).sum();
    }

    /** Prepares a model; meshes that the cache knows cost nothing, the others are prepared on all cores. */
    public static RenderScene of(Model model, RenderCache cache) {
        Map<Mesh, RenderMesh> ready = new HashMap<>();
        List<Mesh> meshes = List.copyOf(model.meshes());
        RenderMesh[] made = new RenderMesh[meshes.size()];
        IntStream.range(0, made.length).parallel().forEach(i -> made[i] = cache.mesh(meshes.get(i)));
        for (int i = 0; i < made.length; i++) {
            ready.put(meshes.get(i), made[i]);
        }
        Map<Material, Surface> surfaces = new HashMap<>();
        Map<Placed, float[]> placed = new HashMap<>();
        Map<String, Integer> owners = new LinkedHashMap<>();
        List<Box3> ownerBounds = new ArrayList<>();
        List<Use> uses = new ArrayList<>();
        Box3[] bounds = {Box3.EMPTY};
        model.visit((owner, part, world) -> {
            int number = owners.computeIfAbsent(owner.path(), path -> owners.size());
            Box3 box = part.mesh().bounds().transformed(world);
            bounds[0] = bounds[0].union(box);
            if (number == ownerBounds.size()) {
                ownerBounds.add(box);
            } else {
                ownerBounds.set(number, ownerBounds.get(number).union(box));
            }
            RenderMesh mesh = ready.get(part.mesh());
            Surface surface = surfaces.computeIfAbsent(part.material(), material -> surface(material, cache));
            float[] uvs = mesh.uvs;
            if (uvs != null && !surface.sampling().inPlace()) {
                uvs = placed.computeIfAbsent(new Placed(uvs, surface.sampling()), key -> key.sampling()
                        .placed(key.uvs()));
            }
            uses.add(new Use(mesh, surface, uvs, world, normalMatrix(world), number));
        });
        return new RenderScene(
                List.copyOf(uses), List.copyOf(owners.keySet()), bounds[0], ownerBounds.toArray(Box3[]::new));
    }

    private static Surface surface(Material m, RenderCache cache) {
        Image image = m.texture(Material.Slot.BASE)
                .flatMap(Texture::file)
                .flatMap(cache::image)
                .orElse(null);
        return new Surface(
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
                m.texture(Material.Slot.BASE).map(Texture::sampling).orElse(Texture.Sampling.USUAL));
    }

    /** The cofactors of the linear part: turns normals also where the scale is uneven, mirrored or flat. */
    private static float[] normalMatrix(Matrix4 m) {
        float[] n = new float[9];
        for (int i = 0; i < 3; i++) {
            for (int j = 0; j < 3; j++) {
                int a = (i + 1) % 3;
                int b = (i + 2) % 3;
                int c = (j + 1) % 3;
                int d = (j + 2) % 3;
                n[3 * i + j] = (float) (m.get(a, c) * m.get(b, d) - m.get(a, d) * m.get(b, c));
            }
        }
        if (m.determinant3() < 0) {
            for (int i = 0; i < 9; i++) {
                n[i] = -n[i];
            }
        }
        return n;
    }

    /** The box around everything. */
    public Box3 bounds() {
        return bounds;
    }

    /** The boxes around the objects, for framing them closely. */
    public List<Box3> boxes() {
        return List.of(ownerBounds);
    }

    /** The box around one object's surfaces. */
    public Optional<Box3> bounds(String owner) {
        int number = owners.indexOf(owner);
        return number < 0 ? Optional.empty() : Optional.of(ownerBounds[number]);
    }

    /** The box around some objects and all below them, by their paths. */
    public Box3 boundsBelow(String path) {
        Box3 box = Box3.EMPTY;
        for (int i = 0; i < owners.size(); i++) {
            if (owners.get(i).equals(path) || owners.get(i).startsWith(path + "/")) {
                box = box.union(ownerBounds[i]);
            }
        }
        return box;
    }

    /**
     * This scene with an object and all below it moved, for showing a drag while it goes on; shadows stay.
     *
     * @param change from where it stands now to where it is to stand, in the world
     */
    public RenderScene moved(String path, Matrix4 change) {
        boolean[] chosen = ownersBelow(List.of(path));
        List<Use> moved = new ArrayList<>(uses.size());
        for (Use use : uses) {
            if (chosen[use.owner()]) {
                moved.add(use.at(use.world().times(change)));
            } else {
                moved.add(use);
            }
        }
        RenderScene scene = new RenderScene(moved, owners, bounds, ownerBounds);
        scene.shadow = shadow();
        return scene;
    }

    /** Triangles as they are drawn. */
    public long triangles() {
        return triangles;
    }

    /** The path of the object behind a number in {@link Frame#ids}. */
    public Optional<String> owner(int id) {
        return id < 0 || id >= owners.size() ? Optional.empty() : Optional.of(owners.get(id));
    }

    /** Which objects are the given ones or lie below them. */
    boolean[] ownersBelow(java.util.Collection<String> paths) {
        boolean[] chosen = new boolean[owners.size()];
        if (!paths.isEmpty()) {
            for (int i = 0; i < chosen.length; i++) {
                String owner = owners.get(i);
                for (String path : paths) {
                    chosen[i] |= owner.equals(path) || owner.startsWith(path + "/");
                }
            }
        }
        return chosen;
    }

    synchronized ContactShadow shadow() {
        ContactShadow known = shadow;
        if (known == null) {
            known = ContactShadow.below(this);
            shadow = known;
        }
        return known;
    }
}
