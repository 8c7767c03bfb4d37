package pantry.exchange.format;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.Names;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.model.Material;
import pantry.model.Model;

/** The meshes of a model where they stand, for formats that have no places of their own. */
public final class PlacedParts {
    private PlacedParts() {}

    /**
     * A mesh where it stands.
     *
     * @param owner the object that it is of
     * @param strands the points or lines that the mesh only shows
     */
    public record Placed(Model.Node owner, Mesh mesh, Material material, Optional<Strands> strands) {}

    /** All meshes as often as they are drawn; those without faces left out. */
    public static List<Placed> of(Model model) {
        List<Placed> placed = new ArrayList<>();
        model.visit((owner, part, world) -> {
            if (part.mesh().faceCount() > 0) {
                placed.add(new Placed(
                        owner,
                        sound(part.mesh().transformed(world)),
                        part.material(),
                        part.strands().map(strands -> strands.transformed(world))));
            }
        });
        return placed;
    }

    /** A mesh whose normals are of unit length, or which has none: they are computed by whoever reads it then. */
    private static Mesh sound(Mesh mesh) {
        Channel normals = mesh.normals().orElse(null);
        if (normals == null) {
            return mesh;
        }
        float[] data = normals.data();
        boolean unit = true;
        for (int i = 0; i < data.length; i += 3) {
            double square = (double) data[i] * data[i]
                    + (double) data[i + 1] * data[i + 1]
                    + (double) data[i + 2] * data[i + 2];
            if (!(square > 1e-20) || Double.isInfinite(square)) {
                return mesh.withoutNormals();
            }
            unit &= Math.abs(square - 1) < 1e-4;
        }
        return unit ? mesh : mesh.withUnitNormals();
    }

    /** Notes what no format without materials, names and places can hold. */
    public static void noteStructure(Model model, String format, ExportNotes notes) {
        int objects = model.objects();
        if (objects > 1) {
            notes.left(format + " holds no tree of objects: " + objects + " objects are written where they stand");
        }
        noteFixtures(model, format, notes);
    }

    /** Notes lights and cameras. */
    public static void noteFixtures(Model model, String format, ExportNotes notes) {
        int lights = model.extras().lights();
        int cameras = model.extras().cameras();
        if (lights > 0) {
            notes.left(format + " has no lights: " + lights + " left out");
        }
        if (cameras > 0) {
            notes.left(format + " has no cameras: " + cameras + " left out");
        }
        model.extras()
                .skeleton()
                .ifPresent(skeleton -> notes.left(format + " has no skeletons: "
                        + Names.counted(skeleton.joints().size(), "bone") + " and "
                        + Names.counted(skeleton.motions().size(), "motion") + " left out"));
        if (!model.looks().isEmpty()) {
            notes.left(format + " has no variants: the looks " + String.join(", ", model.looks())
                    + " are left out, and the first is written");
        }
    }

    /** Notes channels of the meshes that a format has no place for. */
    public static void noteChannels(List<Placed> placed, List<String> held, String format, ExportNotes notes) {
        for (Placed each : placed) {
            each.mesh().primvars().keySet().stream()
                    .filter(name -> !held.contains(name) && !name.startsWith("skel:"))
                    .forEach(name -> notes.left(format + " has no place for " + name + " of "
                            + each.owner().name()));
            if (each.mesh().doubleSided()) {
                notes.left(format + " does not say which surfaces are seen from both sides");
            }
        }
    }
}
