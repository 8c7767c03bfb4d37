package pantry.model;

import java.util.ArrayList;
import java.util.List;
import pantry.base.math.Matrix4;
import pantry.mesh.Measures;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;

/**
 * Measures a model object by object: a body whose surface is split into several meshes, one for each material, is closed
 * where these close each other.
 */
final class ModelMeasures {
    /** More open meshes side by side are no body that was split by materials. */
    private static final int MOST_PIECES = 256;

    private Measures sum = Measures.NOTHING;

    private ModelMeasures() {}

    static Measures of(Model model) {
        ModelMeasures measures = new ModelMeasures();
        measures.addAll(model.roots(), Matrix4.IDENTITY);
        return measures.sum;
    }

    /** @param above the place of what the nodes hang on */
    private void addAll(List<Model.Node> nodes, Matrix4 above) {
        List<Mesh> open = new ArrayList<>();
        Measures apart = Measures.NOTHING;
        for (Model.Node node : nodes) {
            Matrix4 world = node.local().times(above);
            List<Mesh> meshes = node.parts().stream().map(Model.Part::mesh).toList();
            Measures own = together(meshes, world);
            if (own.closed() || own.triangles() == 0) {
                sum = sum.plus(own);
            } else {
                apart = apart.plus(own);
                meshes.forEach(mesh -> open.add(mesh.transformed(node.local())));
            }
            addAll(node.children(), world);
        }
        // Pieces of one body stand side by side below what they are pieces of.
        boolean pieces = open.size() > 1 && open.size() <= MOST_PIECES;
        Measures joined = pieces ? Measures.of(Merging.of(open), above) : apart;
        sum = sum.plus(joined.closed() ? joined : apart);
    }

    /** The measures of an object's meshes: of all as one surface where that is closed, else of each by itself. */
    private static Measures together(List<Mesh> meshes, Matrix4 world) {
        Measures apart = Measures.NOTHING;
        for (Mesh mesh : meshes) {
            apart = apart.plus(Measures.of(mesh, world));
        }
        if (meshes.size() < 2 || meshes.size() > MOST_PIECES || apart.closed()) {
            return apart;
        }
        Measures joined = Measures.of(Merging.of(meshes), world);
        return joined.closed() ? joined : apart;
    }
}
