package pantry.exchange;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.mesh.Measures;
import pantry.mesh.Mesh;

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
    /** A mesh with what it is made of. */
    public record Part(Mesh mesh, Material material) {}

    /** Counts of what is not drawn. */
    public record Extras(int lights, int cameras, int hidden) {
        public static final Extras NONE = new Extras(0, 0, 0);
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

    /** Visits every part as often as it is drawn. */
    public void visit(Visitor visitor) {
        roots.forEach(root -> visit(root, root, Matrix4.IDENTITY, false, visitor));
    }

    private static void visit(Node node, Node owner, Matrix4 above, boolean inShared, Visitor visitor) {
        Node nextOwner = inShared ? owner : node;
        Matrix4 world = node.local().times(above);
        for (Part part : node.parts()) {
            visitor.visit(nextOwner, part, world);
        }
        for (Node child : node.children()) {
            visit(child, nextOwner, world, inShared || node.shared(), visitor);
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
        visit((owner, part, world) -> materials.add(part.material()));
        return materials;
    }

    /** Each texture of the materials, once. */
    public Set<Texture> textures() {
        Set<Texture> textures = new LinkedHashSet<>();
        materials().forEach(material -> textures.addAll(material.textures().values()));
        return textures;
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

    /** The measures of everything as it stands. */
    public Measures measures() {
        Measures[] sum = {Measures.NOTHING};
        visit((owner, part, world) -> sum[0] = sum[0].plus(Measures.of(part.mesh(), world)));
        return sum[0];
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
        return mapped(node -> new Node(
                node.name(),
                node.path(),
                back.times(node.local()).times(change),
                node.parts().stream()
                        .map(part -> new Part(
                                changed.computeIfAbsent(part.mesh(), mesh -> mesh.transformed(change)),
                                part.material()))
                        .toList(),
                node.children(),
                node.shared()));
    }

    /** This model with every material replaced. */
    public Model withMaterials(UnaryOperator<Material> change) {
        Map<Material, Material> changed = new LinkedHashMap<>();
        return mapped(node -> new Node(
                node.name(),
                node.path(),
                node.local(),
                node.parts().stream()
                        .map(part -> new Part(part.mesh(), changed.computeIfAbsent(part.material(), change)))
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
