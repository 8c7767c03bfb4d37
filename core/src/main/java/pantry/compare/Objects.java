package pantry.compare;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.model.Model;

/** A model's objects with surfaces, each under its path without the topmost name. */
final class Objects {
    private Objects() {}

    /**
     * An object.
     *
     * @param world its place in the model
     * @param shape equal for equal surfaces, wherever they stand
     */
    record Thing(String path, Model.Node node, Matrix4 world, int shape) {
        long triangles() {
            return node.parts().stream()
                    .mapToLong(part -> part.mesh().triangleCount())
                    .sum();
        }

        /** Whether the surfaces of two things are the same, point for point. */
        boolean sameShape(Thing other) {
            if (shape != other.shape
                    || node.parts().size() != other.node.parts().size()) {
                return false;
            }
            for (int i = 0; i < node.parts().size(); i++) {
                if (!same(node.parts().get(i).mesh(), other.node.parts().get(i).mesh())) {
                    return false;
                }
            }
            return true;
        }

        List<String> materials() {
            return node.parts().stream().map(part -> part.material().title()).toList();
        }
    }

    private static boolean same(Mesh a, Mesh b) {
        return a == b
                || Arrays.equals(a.corners(), b.corners())
                        && Arrays.equals(a.faceSizes(), b.faceSizes())
                        && Arrays.equals(a.points(), b.points());
    }

    static Map<String, Thing> of(Model model) {
        Map<String, Thing> things = new LinkedHashMap<>();
        boolean wrapped =
                model.roots().size() == 1 && model.roots().getFirst().parts().isEmpty();
        for (Model.Node root : model.roots()) {
            collect(root, wrapped ? "" : root.name(), root.local(), things);
        }
        return things;
    }

    private static void collect(Model.Node node, String path, Matrix4 world, Map<String, Thing> things) {
        if (!node.parts().isEmpty()) {
            things.put(path, new Thing(path, node, world, shape(node)));
        }
        Map<String, Integer> names = new LinkedHashMap<>();
        for (Model.Node child : node.children()) {
            int number = names.merge(child.name(), 1, Integer::sum);
            String name = child.name() + (number == 1 ? "" : "#" + number);
            collect(
                    child,
                    path.isEmpty() ? name : path + "/" + name,
                    child.local().times(world),
                    things);
        }
    }

    private static int shape(Model.Node node) {
        int hash = 1;
        for (Model.Part part : node.parts()) {
            hash = 31 * hash + Arrays.hashCode(part.mesh().points());
            hash = 31 * hash + Arrays.hashCode(part.mesh().corners());
        }
        return hash;
    }
}
