package pantry.render;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** The standing figure of 1.75 m that tells how large things are. */
public final class Figure {
    /** Its height, metres. */
    public static final double HEIGHT = 1.75;

    /** The path under which it is drawn, so that it can be told from the things it stands beside. */
    public static final String PATH = "figure of 1.75 m";

    private static final Material PAPER = Material.plain("Figure", Colour.ofDisplay(0xC9BFA8), 0, 1);

    private Figure() {}

    /** The figure with its feet at a place. */
    public static Model.Node at(Vec3 feet) {
        return new Model.Node(
                PATH, PATH, Matrix4.translation(feet), List.of(new Model.Part(mesh(), PAPER)), List.of(), false);
    }

    private static Mesh mesh() {
        MeshBuilder builder = new MeshBuilder();
        // A coat, shoulders and a head, turned like a wooden toy.
        builder.add(
                Shapes.lathe(
                        new double[] {0.155, 0.165, 0.15, 0.165, 0.205, 0.215, 0.17, 0.07, 0.055},
                        new double[] {0, 0.06, 0.72, 0.95, 1.22, 1.34, 1.43, 1.48, 1.52},
                        28,
                        true),
                Matrix4.scale(new Vec3(1, 1, 0.72)));
        builder.add(Shapes.sphere(0.125, 24, 16), Matrix4.translation(new Vec3(0, HEIGHT - 0.125, 0)));
        return builder.build();
    }
}
