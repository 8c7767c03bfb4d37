package pantry.model;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.mesh.Measures;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.motion.Skeleton;

/**
 * A tree of placed meshes with materials. Immutable.
 *
 * <p>Nodes may share their lists of children and their meshes: that is how instances cost a transform and not the
 * polygons.
 *
 * @param name for a person
 * @param roots the topmost nodes
 * @param extras what the model carries besides surfaces
 */
public record Model(String name, List<Node> roots, Extras extras) {
    /**
     * A mesh with what it is made of.
     *
     * @param looks what it is made of instead, by the name of the look, where the file offers several
     * @param strands the points or lines that the mesh only shows; a mesh that is changed is a surface like others
     */
    public record Part(Mesh mesh, Material material, Map<String, Material> looks, Optional<Strands> strands) {
        public Part {
            looks = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(looks));
        }

        public Part(Mesh mesh, Material material, Map<String, Material> looks) {
            this(mesh, material, looks, Optional.empty());
        }

        /** Points or lines. */
        public static Part of(Strands strands, Material material) {
            Mesh drawn = strands.drawn();
            boolean coloured = drawn.primvars().containsKey(Mesh.COLOUR);
            return new Part(drawn, coloured ? material.onColoured() : material, Map.of(), Optional.of(strands));
        }

        public Part(Mesh mesh, Material material) {
            this(mesh, material, Map.of());
        }

        /** @param moved gives the mesh in the other frame */
        private Part reframed(UnaryOperator<Mesh> moved, Matrix4 change) {
            return new Part(moved.apply(mesh), material, looks, strands.map(each -> each.transformed(change)));
        }

        Part with(UnaryOperator<Mesh> newMesh, UnaryOperator<Material> newMaterial) {
            Map<String, Material> changed = new LinkedHashMap<>();
            looks.forEach((look, other) -> changed.put(look, newMaterial.apply(other)));
            Mesh other = newMesh.apply(mesh);
            return new Part(other, newMaterial.apply(material), changed, other == mesh ? strands : Optional.empty());
        }
    }

    /**
     * What is not drawn.
     *
     * @param fixtures lights and cameras
     * @param hidden objects that are not to be seen
     * @param foreign what no surface, light or camera is: scripts, line work; never run, never kept
     * @param skeleton the joints that parts hang on, with their motions; in the model's space
     * @param custom what the file says beyond its format
     */
    public record Extras(
            List<Fixture> fixtures,
            int hidden,
            List<String> foreign,
            Optional<Skeleton> skeleton,
            List<CustomValue> custom) {
        public static final Extras NONE = new Extras(List.of(), 0, List.of());

        public Extras {
            fixtures = List.copyOf(fixtures);
            foreign = List.copyOf(foreign);
            custom = List.copyOf(custom);
        }

        public Extras(List<Fixture> fixtures, int hidden, List<String> foreign) {
            this(fixtures, hidden, foreign, Optional.empty());
        }

        public Extras(List<Fixture> fixtures, int hidden, List<String> foreign, Optional<Skeleton> skeleton) {
            this(fixtures, hidden, foreign, skeleton, List.of());
        }

        /** The same with what the file says beyond its format. */
        public Extras carrying(List<CustomValue> values) {
            return new Extras(fixtures, hidden, foreign, skeleton, values);
        }

        /** The same with a skeleton, or without one. */
        public Extras with(Optional<Skeleton> other) {
            return new Extras(fixtures, hidden, foreign, other, custom);
        }

        /** The same, with more told of what is not kept. */
        public Extras telling(List<String> more) {
            return new Extras(
                    fixtures,
                    hidden,
                    Stream.concat(foreign.stream(), more.stream()).toList(),
                    skeleton,
                    custom);
        }

        /** The same, where its fixtures and joints stand elsewhere. */
        private Extras at(List<Fixture> others, Optional<Skeleton> bones) {
            return new Extras(others, hidden, foreign, bones, custom);
        }

        public int lights() {
            return (int)
                    fixtures.stream().filter(Fixture.Light.class::isInstance).count();
        }

        public int cameras() {
            return (int)
                    fixtures.stream().filter(Fixture.Camera.class::isInstance).count();
        }

        /** With only those fixtures that are wanted. */
        public Extras keeping(java.util.function.Predicate<Fixture> wanted) {
            return new Extras(fixtures.stream().filter(wanted).toList(), hidden, foreign, skeleton, custom);
        }
    }

    /**
     * An object.
     *
     * @param path where it stands in the stage it was read from; its name otherwise
     * @param local its place within its parent
     * @param shared whether its children are shared with other nodes like it
     */
    public record Node(String name, String path, Matrix4 local, List<Part> parts, List<Node> children, boolean shared) {
        public Node {
            parts = List.copyOf(parts);
            // Copying keeps an immutable list as it is, so shared children stay shared.
            children = List.copyOf(children);
        }

        /** An object of its own. */
        public static Node of(String name, Matrix4 local, List<Part> parts, List<Node> children) {
            return new Node(name, name, local, parts, children, false);
        }
    }

    /** Nothing at all. */
    public static final Model EMPTY = new Model("", List.of(), Extras.NONE);

    /** Called for each mesh where it stands. */
    @FunctionalInterface
    public interface Visitor {
        /**
         * @param owner the nearest node that is not shared with others, or the topmost one
         * @param world from the mesh's space to the model's
         */
        void visit(Node owner, Part part, Matrix4 world);
    }

    public Model {
        roots = List.copyOf(roots);
    }

    /** Called for each mesh where it stands, with the place of what owns it. */
    @FunctionalInterface
    public interface PlacedVisitor {
        /**
         * @param owner the nearest node that is not shared with others, or the topmost one
         * @param place from the owner's space to the model's
         * @param world from the mesh's space to the model's
         */
        void visit(Node owner, Matrix4 place, Part part, Matrix4 world);
    }

    /** Visits every part as often as it is drawn. */
    public void visit(Visitor visitor) {
        visitPlaced((owner, place, part, world) -> visitor.visit(owner, part, world));
    }

    /** Visits every part as often as it is drawn, and tells where its owner stands. */
    public void visitPlaced(PlacedVisitor visitor) {
        roots.forEach(root -> visit(root, root, Matrix4.IDENTITY, Matrix4.IDENTITY, false, visitor));
    }

    private static void visit(
            Node node, Node owner, Matrix4 ownerPlace, Matrix4 above, boolean inShared, PlacedVisitor visitor) {
        Matrix4 world = node.local().times(above);
        Node nextOwner = inShared ? owner : node;
        Matrix4 nextPlace = inShared ? ownerPlace : world;
        for (Part part : node.parts()) {
            visitor.visit(nextOwner, nextPlace, part, world);
        }
        for (Node child : node.children()) {
            visit(child, nextOwner, nextPlace, world, inShared || node.shared(), visitor);
        }
    }

    /**
     * How many nodes there are, those of shared contents counted as often as they are shown.
     *
     * @param most from which on it need not be known: the answer is then greater than this
     */
    public static long placements(List<Node> roots, long most) {
        Map<List<Node>, Long> known = new IdentityHashMap<>();
        long sum = 0;
        for (Node root : roots) {
            sum = Math.min(most + 1, sum + placements(root, most, known));
        }
        return sum;
    }

    private static long placements(Node node, long most, Map<List<Node>, Long> known) {
        if (node.children().isEmpty()) {
            return 1;
        }
        Long below = known.get(node.children());
        if (below == null) {
            below = 0L;
            for (Node child : node.children()) {
                below = Math.min(most + 1, below + placements(child, most, known));
            }
            known.put(node.children(), below);
        }
        return Math.min(most + 1, 1 + below);
    }

    /** The model with some objects elsewhere, by their paths; wherever shared contents are used, they are there. */
    public Model withPlaces(Map<String, Matrix4> places) {
        Map<List<Node>, List<Node>> changed = new IdentityHashMap<>();
        return new Model(name, placed(roots, places, changed), extras);
    }

    private static List<Node> placed(
            List<Node> nodes, Map<String, Matrix4> places, Map<List<Node>, List<Node>> changed) {
        List<Node> known = changed.get(nodes);
        if (known != null) {
            return known;
        }
        List<Node> moved = new ArrayList<>(nodes.size());
        boolean same = true;
        for (Node node : nodes) {
            List<Node> children =
                    node.children().isEmpty() ? node.children() : placed(node.children(), places, changed);
            Matrix4 local = places.getOrDefault(node.path(), node.local());
            boolean kept = children == node.children() && local == node.local();
            same &= kept;
            moved.add(kept ? node : new Node(node.name(), node.path(), local, node.parts(), children, node.shared()));
        }
        List<Node> result = same ? nodes : List.copyOf(moved);
        changed.put(nodes, result);
        return result;
    }

    /**
     * The model with the insides of one object told apart: what it shares with others is there its own, by paths below
     * the object's.
     */
    public Model withApart(String path) {
        return new Model(name, apart(roots, path), extras);
    }

    private static List<Node> apart(List<Node> nodes, String path) {
        List<Node> changed = new ArrayList<>(nodes.size());
        for (Node node : nodes) {
            if (node.path().equals(path)) {
                changed.add(apart(node, path));
            } else if (path.startsWith(node.path() + "/")) {
                changed.add(new Node(
                        node.name(),
                        node.path(),
                        node.local(),
                        node.parts(),
                        apart(node.children(), path),
                        node.shared()));
            } else {
                changed.add(node);
            }
        }
        return changed;
    }

    private static Node apart(Node node, String path) {
        List<Node> children = new ArrayList<>(node.children().size());
        for (Node child : node.children()) {
            children.add(apart(child, path + child.path().substring(child.path().lastIndexOf('/'))));
        }
        return new Node(node.name(), path, node.local(), node.parts(), children, false);
    }

    /** The box around one object and all below it, in its own space; empty where there is none of that path. */
    public Box3 boundsWithin(String path) {
        return within(roots, path, new HashSet<>()).orElse(Box3.EMPTY);
    }

    private static Optional<Box3> within(List<Node> nodes, String path, Set<Object> seen) {
        for (Node node : nodes) {
            if (node.path().equals(path)) {
                Box3[] box = {Box3.EMPTY};
                visit(
                        new Node(node.name(), path, Matrix4.IDENTITY, node.parts(), node.children(), false),
                        node,
                        Matrix4.IDENTITY,
                        Matrix4.IDENTITY,
                        false,
                        (owner, place, part, world) ->
                                box[0] = box[0].union(part.mesh().bounds().transformed(world)));
                return Optional.of(box[0]);
            }
            boolean fresh = !node.shared() || seen.add(new Identity(node.children()));
            Optional<Box3> below = fresh ? within(node.children(), path, seen) : Optional.empty();
            if (below.isPresent()) {
                return below;
            }
        }
        return Optional.empty();
    }

    /** A list by which one it is, not by what is in it. */
    private record Identity(List<Node> list) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Identity identity && identity.list == list;
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(list);
        }
    }

    /** Each mesh once. */
    public Set<Mesh> meshes() {
        Set<Mesh> meshes = new LinkedHashSet<>();
        visit((owner, part, world) -> meshes.add(part.mesh()));
        return meshes;
    }

    /** Each material that something is made of, once. */
    public Set<Material> materials() {
        Set<Material> materials = new LinkedHashSet<>();
        visit((owner, part, world) -> {
            materials.add(part.material());
            materials.addAll(part.looks().values());
        });
        materials.removeIf(Material::isNone);
        return materials;
    }

    /** Each texture of the materials, and each picture of a sky, once. */
    public Set<Texture> textures() {
        Set<Texture> textures = new LinkedHashSet<>();
        extras.fixtures().forEach(fixture -> fixture.picture().ifPresent(textures::add));
        materials().forEach(material -> textures.addAll(material.images()));
        return textures;
    }

    /** The names of the looks that its parts offer, in order. */
    public Set<String> looks() {
        Set<String> looks = new LinkedHashSet<>();
        visit((owner, part, world) -> looks.addAll(part.looks().keySet()));
        return looks;
    }

    /** The number of nodes. */
    public int objects() {
        return count(roots);
    }

    private static int count(List<Node> nodes) {
        int count = 0;
        for (Node node : nodes) {
            count += 1 + count(node.children());
        }
        return count;
    }

    /** The box around everything, exactly. */
    public Box3 bounds() {
        Box3[] box = {Box3.EMPTY};
        visit((owner, part, world) -> box[0] = box[0].union(part.mesh().boundsIn(world)));
        return box[0];
    }

    /** The measures of everything as it stands; meshes of one object that close each other count as one surface. */
    public Measures measures() {
        return ModelMeasures.of(this);
    }

    /** Triangles as they are stored: each mesh once. */
    public long trianglesStored() {
        return meshes().stream().mapToLong(Mesh::triangleCount).sum();
    }

    /** Triangles as they are drawn: each mesh as often as it stands somewhere. */
    public long trianglesDrawn() {
        long[] sum = {0};
        visit((owner, part, world) -> sum[0] += part.mesh().triangleCount());
        return sum[0];
    }

    /** This model under another name. */
    public Model named(String newName) {
        return new Model(newName, roots, extras);
    }

    /**
     * The model in another frame: lengths scaled, axes turned. Transforms stay where they were in the tree; only their
     * numbers change, so that no object carries a leftover scale or turn.
     *
     * @param change a rotation and uniform scale
     */
    public Model reframed(Matrix4 change) {
        if (change.equals(Matrix4.IDENTITY)) {
            return this;
        }
        Matrix4 back = change.inverse();
        Map<Mesh, Mesh> changed = new LinkedHashMap<>();
        UnaryOperator<Mesh> moved = mesh -> changed.computeIfAbsent(mesh, m -> m.transformed(change));
        Model model = mapped(node -> new Node(
                node.name(),
                node.path(),
                back.times(node.local()).times(change),
                node.parts().stream().map(part -> part.reframed(moved, change)).toList(),
                node.children(),
                node.shared()));
        List<Fixture> fixtures = extras.fixtures().stream()
                .map(fixture -> fixture.reframed(change))
                .toList();
        return model.with(extras.at(fixtures, extras.skeleton().map(bones -> bones.reframed(change))));
    }

    /** The model moved as a whole: its topmost objects, and its fixtures. */
    public Model moved(Matrix4 move) {
        List<Node> moved = roots.stream()
                .map(root -> new Node(
                        root.name(),
                        root.path(),
                        root.local().times(move),
                        root.parts(),
                        root.children(),
                        root.shared()))
                .toList();
        List<Fixture> fixtures = extras.fixtures().stream()
                .map(fixture -> fixture.at(fixture.world().times(move)))
                .toList();
        return new Model(name, moved, extras.at(fixtures, extras.skeleton().map(bones -> bones.moved(move))));
    }

    /** This model with other extras. */
    public Model with(Extras newExtras) {
        return new Model(name, roots, newExtras);
    }

    /** This model with each mesh replaced, once for all its uses. */
    public Model withMeshes(UnaryOperator<Mesh> change) {
        Map<Mesh, Mesh> changed = new LinkedHashMap<>();
        UnaryOperator<Mesh> once = mesh -> changed.computeIfAbsent(mesh, change);
        return mapped(node -> new Node(
                node.name(),
                node.path(),
                node.local(),
                node.parts().stream()
                        .map(part -> part.with(once, UnaryOperator.identity()))
                        .toList(),
                node.children(),
                node.shared()));
    }

    /** This model without some of its topmost nodes or those below them; what is left empty by that goes too. */
    public Model without(java.util.function.Predicate<Node> unwanted) {
        return new Model(name, without(roots, unwanted), extras);
    }

    private static List<Node> without(List<Node> nodes, java.util.function.Predicate<Node> unwanted) {
        List<Node> kept = new ArrayList<>();
        for (Node node : nodes) {
            if (unwanted.test(node)) {
                continue;
            }
            List<Node> children = node.shared() ? node.children() : without(node.children(), unwanted);
            boolean emptied = node.parts().isEmpty()
                    && children.isEmpty()
                    && !node.children().isEmpty();
            if (!emptied) {
                kept.add(new Node(node.name(), node.path(), node.local(), node.parts(), children, node.shared()));
            }
        }
        return kept;
    }

    /** This model with every material replaced. */
    public Model withMaterials(UnaryOperator<Material> change) {
        Map<Material, Material> changed = new LinkedHashMap<>();
        UnaryOperator<Material> once = material -> changed.computeIfAbsent(material, change);
        return withParts(part -> part.with(UnaryOperator.identity(), once));
    }

    /** This model with every part replaced. */
    public Model withParts(UnaryOperator<Part> change) {
        return mapped(node -> new Node(
                node.name(),
                node.path(),
                node.local(),
                node.parts().stream().map(change).toList(),
                node.children(),
                node.shared()));
    }

    /** This model with several parts, or none, instead of each. */
    Model withPartsOf(Function<Part, List<Part>> change) {
        return mapped(node -> new Node(
                node.name(),
                node.path(),
                node.local(),
                node.parts().stream()
                        .flatMap(part -> change.apply(part).stream())
                        .toList(),
                node.children(),
                node.shared()));
    }

    /** Changes each node; its children have been changed before. Shared children stay shared. */
    private Model mapped(UnaryOperator<Node> change) {
        Map<List<Node>, List<Node>> shared = new java.util.IdentityHashMap<>();
        return new Model(name, mapped(roots, change, shared), extras);
    }

    private static List<Node> mapped(List<Node> nodes, UnaryOperator<Node> change, Map<List<Node>, List<Node>> shared) {
        List<Node> known = shared.get(nodes);
        if (known != null) {
            return known;
        }
        List<Node> result = new ArrayList<>(nodes.size());
        for (Node node : nodes) {
            result.add(change.apply(new Node(
                    node.name(),
                    node.path(),
                    node.local(),
                    node.parts(),
                    mapped(node.children(), change, shared),
                    node.shared())));
        }
        List<Node> immutable = List.copyOf(result);
        shared.put(nodes, immutable);
        return immutable;
    }
}
