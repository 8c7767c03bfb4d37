package pantry.demo;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/** Puts models together out of simple solids, grouped into named parts. Lengths in metres. */
final class Kit {
    private final Map<String, Map<Material, MeshBuilder>> parts = new LinkedHashMap<>();
    private String part = "Body";

    /** What is added from now on belongs to this part. */
    Kit part(String name) {
        part = name;
        return this;
    }

    Kit add(Material material, Mesh mesh, Matrix4 place) {
        parts.computeIfAbsent(part, p -> new LinkedHashMap<>())
                .computeIfAbsent(material, m -> new MeshBuilder())
                .add(mesh, place);
        return this;
    }

    /** A block standing at a place. */
    Kit block(Material material, double width, double height, double depth, double x, double y, double z) {
        return add(material, Shapes.block(width, height, depth), at(x, y, z));
    }

    /** An upright cylinder standing at a place. */
    Kit cylinder(Material material, double radius, double height, double x, double y, double z) {
        return add(material, Shapes.cylinder(radius, height, sides(radius)), at(x, y, z));
    }

    /** A solid turned about the vertical, standing at a place. */
    Kit lathe(Material material, double[] radii, double[] heights, double x, double y, double z) {
        return add(material, Shapes.lathe(radii, heights, 40, true), at(x, y, z));
    }

    Kit sphere(Material material, double radius, double x, double y, double z) {
        return add(material, Shapes.sphere(radius, 32, 20), at(x, y, z));
    }

    /** A rod between two points. */
    Kit rod(Material material, double radius, Vec3 from, Vec3 to) {
        Vec3 along = to.minus(from);
        return add(
                material,
                Shapes.cylinder(radius, along.length(), sides(radius)),
                upTo(along.unit()).times(Matrix4.translation(from)));
    }

    /** A rounded limb from one point to another. */
    Kit limb(Material material, double bottomRadius, double topRadius, Vec3 from, Vec3 to) {
        Vec3 along = to.minus(from);
        return add(
                material,
                Shapes.capsule(bottomRadius, topRadius, along.length(), 20, 6),
                at(0, along.length() / 2, 0).times(upTo(along.unit())).times(Matrix4.translation(from)));
    }

    /** A cylinder lying along x, its middle at a place. */
    Kit roll(Material material, double radius, double length, double x, double y, double z) {
        return rod(material, radius, new Vec3(x - length / 2, y, z), new Vec3(x + length / 2, y, z));
    }

    private static int sides(double radius) {
        return radius < 0.03 ? 10 : radius < 0.2 ? 20 : 36;
    }

    /** Turns the vertical into a direction. */
    private static Matrix4 upTo(Vec3 direction) {
        Vec3 side = Math.abs(direction.y()) > 0.999
                ? new Vec3(1, 0, 0)
                : Vec3.UP.cross(direction).unit();
        Vec3 front = side.cross(direction);
        return Matrix4.ofRows(
                side.x(),
                side.y(),
                side.z(),
                0,
                direction.x(),
                direction.y(),
                direction.z(),
                0,
                front.x(),
                front.y(),
                front.z(),
                0,
                0,
                0,
                0,
                1);
    }

    static Matrix4 at(double x, double y, double z) {
        return Matrix4.translation(new Vec3(x, y, z));
    }

    /** A place turned about the vertical. */
    static Matrix4 at(double x, double y, double z, double degrees) {
        return Matrix4.rotation(1, degrees).times(at(x, y, z));
    }

    /** The model, one object for each part. */
    Model model(String name) {
        List<Model.Node> nodes = new ArrayList<>();
        parts.forEach((partName, meshes) -> {
            List<Model.Part> surfaces = new ArrayList<>();
            meshes.forEach((material, builder) -> surfaces.add(new Model.Part(builder.build(), material)));
            nodes.add(Model.Node.of(partName, Matrix4.IDENTITY, surfaces, List.of()));
        });
        return new Model(name, nodes, Model.Extras.NONE);
    }
}
