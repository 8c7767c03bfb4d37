package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.MESHES;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;
import pantry.library.AssetKind;
import pantry.mesh.BoxProjection;
import pantry.mesh.Channel;
import pantry.mesh.Holes;
import pantry.mesh.Mesh;
import pantry.mesh.MeshEdit;
import pantry.mesh.MeshFaults;
import pantry.mesh.Simplification;
import pantry.mesh.SmoothNormals;
import pantry.mesh.SurfaceDistance;
import pantry.model.WorldPoints;
import pantry.prep.tools.TwinSets;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Surface;
import pantry.workpiece.Tidying;

/** What is wrong with surfaces, or heavier than it need be. */
final class MeshRules {
    static final List<Rule> ALL = List.of(
            Rule.of(
                    "broken-face",
                    MESHES,
                    Severity.WRONG,
                    "Face that is none",
                    "Programs show such a mesh differently, or not at all, or stop.",
                    MeshRules::brokenFaces),
            Rule.of(
                    "empty-mesh",
                    MESHES,
                    Severity.CAUTION,
                    "Mesh with nothing in it",
                    "It shows nothing and stands in every list.",
                    (subject, limits, found) -> subject.objects()
                            .filter(item -> item.prim().typeName().equals("Mesh")
                                    && item.prim().isActive()
                                    && item.mesh().isEmpty()
                                    && item.surface().edges() == 0)
                            .forEach(item -> found.add(
                                    item.path(),
                                    item.title() + " "
                                            + String.join(", ", item.surface().faults()),
                                    item.own() ? Fix.of("Remove it", tidying -> tidying.remove(item.path())) : null))),
            Rule.of(
                    "flat-face",
                    MESHES,
                    Severity.INFORMATION,
                    "Face without area",
                    "It is never seen, and disturbs normals, collision and simplification.",
                    (subject, limits, found) ->
                            faces(subject, found, (item, faults) -> faults.flatFaces(), "flat face", "Remove them")),
            Rule.of(
                    "double-face",
                    MESHES,
                    Severity.CAUTION,
                    "Face that is there twice",
                    "Two faces in one place flicker, and one of them is weight for nothing.",
                    (subject, limits, found) -> faces(
                            subject,
                            found,
                            (item, faults) -> faults.doubleFaces(),
                            "doubled face",
                            "Remove the second")),
            Rule.of(
                    "doubled-point",
                    MESHES,
                    Severity.INFORMATION,
                    "Points in one place",
                    "Surfaces come apart at them when they are bent or made lighter, and each is stored.",
                    (subject, limits, found) -> sound(subject, found, (item, mesh, faults) -> {
                        if (faults.doubledPoints() > 0) {
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(faults.doubledPoints(), "point")
                                            + " in the places of others",
                                    Fix.of("Join them", tidying -> tidying.edit(item.path(), MeshEdit.welding(mesh))));
                        }
                    })),
            Rule.of(
                    "uneven-winding",
                    MESHES,
                    Severity.CAUTION,
                    "Neighbours that disagree about the outside",
                    "Where the back of a face is not drawn, there is a hole.",
                    (subject, limits, found) -> sound(subject, found, (item, mesh, faults) -> {
                        if (faults.unevenFaces() > 0) {
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(faults.unevenFaces(), "face")
                                            + " turned the other way",
                                    Fix.of("Turn them", tidying -> turn(tidying, item, mesh, faults.turned())));
                        }
                    })),
            Rule.of(
                    "inside-out",
                    MESHES,
                    Severity.CAUTION,
                    "Closed part that looks inwards",
                    "It is lit from the wrong side, and invisible where backs are not drawn.",
                    (subject, limits, found) -> sound(subject, found, (item, mesh, faults) -> {
                        if (faults.insideOut() > 0) {
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(faults.insideOut(), "part")
                                            + " inside out",
                                    Fix.of("Turn them", tidying -> turn(tidying, item, mesh, faults.turned())));
                        }
                    })),
            Rule.of(
                    "bad-normal",
                    MESHES,
                    Severity.CAUTION,
                    "Normal that is none",
                    "A normal of no length, or against its face, makes dark or glaring spots.",
                    (subject, limits, found) -> sound(subject, found, (item, mesh, faults) -> {
                        if (faults.badNormals() > 0) {
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(faults.badNormals(), "normal")
                                            + " that cannot be",
                                    Fix.of("Compute them", tidying -> setNormals(tidying, item)));
                        }
                    })),
            Rule.of(
                    "no-normal",
                    MESHES,
                    Severity.INFORMATION,
                    "No normals",
                    "Each program makes its own: round things look round in one and faceted in another.",
                    (subject, limits, found) -> sound(subject, found, (item, mesh, faults) -> {
                        boolean subdivided = !Values.token(item.prim(), "subdivisionScheme")
                                .filter("none"::equals)
                                .isPresent();
                        if (mesh.normals().isEmpty() && !subdivided && isCurved(mesh, faults)) {
                            found.add(
                                    item.path(),
                                    item.title() + " is rounded and says no normals",
                                    Fix.of("Compute them", tidying -> setNormals(tidying, item)));
                        }
                    })),
            Rule.of(
                            "open-edge",
                            MESHES,
                            Severity.INFORMATION,
                            "Hole in a closed surface",
                            "It has no volume, so weight, collision and printing are guesses.",
                            MeshRules::openEdges)
                    .limit("share", 0.05, "a surface with fewer open edges than this share is meant to be closed")
                    .limit("corners", 64, "holes of more corners are left to people"),
            Rule.of(
                    "tangled-edge",
                    MESHES,
                    Severity.INFORMATION,
                    "Edge of more than two faces",
                    "Inside and outside cannot be told there; which face is to go is for a person to say.",
                    (subject, limits, found) -> subject.surfaces()
                            .filter(item -> Subject.isObject(item))
                            .forEach(item -> {
                                int tangled = subject.faults(item.mesh().orElseThrow())
                                        .tangledEdges();
                                if (tangled > 0) {
                                    found.add(
                                            item.path(),
                                            item.title() + " has " + DisplayText.count(tangled, "edge")
                                                    + " of more than two faces",
                                            null);
                                }
                            })),
            Rule.of(
                            "no-uv",
                            MESHES,
                            Severity.CAUTION,
                            "Image without coordinates",
                            "The material has an image, and the mesh does not say where on it: it is shown in one colour.",
                            (subject, limits, found) -> subject.surfaces()
                                    .filter(item -> Subject.isObject(item)
                                            && item.mesh().orElseThrow().uvs().isEmpty()
                                            && subject.isTextured(item))
                                    .forEach(item -> found.add(
                                            item.path(),
                                            item.title() + " has an image and no coordinates for it",
                                            subject.isEditable(item)
                                                    ? Fix.of(
                                                            "Project from six sides",
                                                            tidying -> project(
                                                                    tidying, subject, item, limits.number("repeat")))
                                                    : null)))
                    .limit("repeat", 1.0, "metres after which a projected image repeats"),
            Rule.of(
                            "flat-region",
                            MESHES,
                            Severity.CAUTION,
                            "Many triangles in one plane",
                            "A flat region looks the same with a few large triangles.",
                            MeshRules::flatRegions)
                    .limit("triangles", 500.0, "smaller savings are not worth it"),
            Rule.of(
                            "too-heavy",
                            MESHES,
                            Severity.CAUTION,
                            "Too many triangles",
                            "Every placement draws them; what is too fine to be seen only slows the scene.",
                            MeshRules::tooHeavy)
                    .limit("model", 300_000.0, "triangles of a model")
                    .limit("prefab", 3_000_000.0, "triangles of a prefab")
                    .limit("density", 4_000_000.0, "triangles of one object per square metre of its box's diagonal")
                    .limit("least", 20_000.0, "objects of fewer triangles may be as dense as they like")
                    .limit("deviation", 0.002, "how far the surface may move, as a part of the object's diagonal"));

    private MeshRules() {}

    private interface Question {
        void ask(InspectedPrim item, Mesh mesh, MeshFaults faults);
    }

    /** Asks of each mesh that can be changed and is a mesh in all its parts. */
    private static void sound(Subject subject, Findings found, Question question) {
        subject.surfaces()
                .filter(item ->
                        subject.isEditable(item) && item.surface().faults().isEmpty())
                .forEach(item -> question.ask(
                        item,
                        item.mesh().orElseThrow(),
                        subject.faults(item.mesh().orElseThrow())));
    }

    private interface Faces {
        int[] of(InspectedPrim item, MeshFaults faults);
    }

    private static void faces(Subject subject, Findings found, Faces which, String noun, String label) {
        sound(subject, found, (item, mesh, faults) -> {
            int[] faces = which.of(item, faults);
            if (faces.length > 0) {
                found.add(
                        item.path(),
                        item.title() + " has " + DisplayText.count(faces.length, noun),
                        Fix.removing(label, tidying -> without(tidying, item, mesh, faces)));
            }
        });
    }

    private static void without(Tidying tidying, InspectedPrim item, Mesh mesh, int[] faces) {
        boolean[] gone = new boolean[mesh.faceCount()];
        for (int face : faces) {
            gone[face] = true;
        }
        tidying.edit(item.path(), MeshEdit.keeping(mesh, face -> !gone[face], true));
    }

    private static void brokenFaces(Subject subject, Limits limits, Findings found) {
        subject.surfaces()
                .filter(item -> item.surface().faults().stream().anyMatch(fault -> !isOnlyEdges(item)))
                .forEach(item -> found.add(
                        item.path(),
                        item.title() + " has "
                                + String.join(", ", item.surface().faults()),
                        subject.isEditable(item)
                                ? Fix.removing("Remove them", tidying -> repair(tidying, item))
                                : null));
    }

    private static boolean isOnlyEdges(InspectedPrim item) {
        return item.surface().faults().size() == 1
                && item.surface()
                        .faults()
                        .getFirst()
                        .equals(Surface.fewCorners(item.surface().edges()));
    }

    /** Leaves what is a face. */
    static void repair(Tidying tidying, InspectedPrim item) {
        Prim prim = tidying.prim(item.path()).orElseThrow();
        if (item.surface().kept().length == 0) {
            // The faces are sound, and what goes with them is not.
            tidying.setMesh(item.path(), item.mesh().orElseThrow());
            return;
        }
        tidying.edit(item.path(), item.surface().repair(prim));
    }

    private static void turn(Tidying tidying, InspectedPrim item, Mesh mesh, boolean[] turned) {
        tidying.edit(item.path(), MeshEdit.turning(mesh, turned));
        Prim prim = tidying.prim(item.path()).orElseThrow();
        Mesh now = Surface.of(prim, tidying.piece().meshes()).mesh().orElseThrow();
        now.normals()
                .ifPresent(normals -> tidying.setNormals(
                        item.path(), new Channel(MeshFaults.facing(now, normals), 3, Channel.Per.CORNER)));
    }

    private static void setNormals(Tidying tidying, InspectedPrim item) {
        Prim prim = tidying.prim(item.path()).orElseThrow();
        tidying.setNormals(
                item.path(),
                SmoothNormals.of(
                        Surface.of(prim, tidying.piece().meshes()).mesh().orElseThrow()));
    }

    /** Whether there are two neighbouring faces at a small angle. */
    private static boolean isCurved(Mesh mesh, MeshFaults faults) {
        return mesh.faceCount() > 12 && faults.plane().triangles() < mesh.triangleCount();
    }

    private static void openEdges(Subject subject, Limits limits, Findings found) {
        sound(subject, found, (item, mesh, faults) -> {
            int edges = mesh.corners().length / 2;
            if (faults.boundaryEdges() == 0
                    || faults.boundaryEdges() > limits.number("share") * edges
                    || faults.tangledEdges() > 0) {
                return;
            }
            List<int[]> holes = Holes.of(mesh, (int) limits.number("corners"));
            found.add(
                    item.path(),
                    item.title() + " is closed but for " + DisplayText.count(faults.boundaryEdges(), "edge"),
                    holes.isEmpty()
                            ? null
                            : new Fix(
                                    "Close " + DisplayText.count(holes.size(), "hole"),
                                    Fix.Keeps.EVERY_VERTEX,
                                    0,
                                    tidying -> tidying.setMesh(item.path(), Holes.closed(mesh, holes))));
        });
    }

    private static void project(Tidying tidying, Subject subject, InspectedPrim item, double repeat) {
        Mesh mesh = item.mesh().orElseThrow();
        double unit = TwinSets.grown(item.world());
        tidying.setChannel(item.path(), "texCoord2f[]", "primvars:st", BoxProjection.of(mesh, repeat / unit));
    }

    private static void flatRegions(Subject subject, Limits limits, Findings found) {
        sound(subject, found, (item, mesh, faults) -> {
            int saved = faults.plane().saved();
            if (saved >= limits.number("triangles")) {
                double share = (double) (mesh.triangleCount() - saved) / mesh.triangleCount();
                found.add(
                        item.path(),
                        item.title() + " has "
                                + DisplayText.count(faults.plane().triangles(), "triangle")
                                + " in flat regions; "
                                + DisplayText.number(faults.plane().needed()) + " would do",
                        simplifying(subject, item, share, subject.grain() * 20));
            }
        });
    }

    private static @Nullable Fix simplifying(Subject subject, InspectedPrim item, double share, double within) {
        if (!item.children().isEmpty()) {
            return null;
        }
        Mesh mesh = item.mesh().orElseThrow();
        double own = within / TwinSets.grown(item.world());
        return new Fix(
                "Simplify it",
                Fix.Keeps.THE_SURFACE,
                within,
                tidying -> tidying.setMesh(item.path(), simplified(mesh, share, own)));
    }

    /** What is told of how far a surface moves is an estimate: less is asked for until the measured distance holds. */
    private static Mesh simplified(Mesh mesh, double share, double within) {
        double[] before = WorldPoints.triangles(mesh);
        double asked = within;
        for (int attempt = 0; attempt < 6; attempt++) {
            Mesh light = Simplification.within(mesh, share, asked).mesh();
            if (light.triangleCount() >= mesh.triangleCount()) {
                break;
            }
            if (SurfaceDistance.isWithin(before, WorldPoints.triangles(light), within)) {
                return light;
            }
            asked /= 4;
        }
        throw new PrepException(
                "it cannot be made lighter without moving its surface by more than " + DisplayText.length(within));
    }

    private static void tooHeavy(Subject subject, Limits limits, Findings found) {
        long drawn = subject.model().trianglesDrawn();
        boolean prefab = subject.workpiece()
                .shelved()
                .filter(place -> place.asset().card().kind() == AssetKind.PREFAB)
                .isPresent();
        double budget = limits.number(prefab ? "prefab" : "model");
        double share = budget / drawn;
        List<InspectedPrim> heavy = new ArrayList<>();
        sound(subject, found, (item, mesh, faults) -> {
            Vec3 size = item.ownBounds().size();
            double dense = limits.number("density") * size.dot(size);
            if (mesh.triangleCount() >= limits.number("least") && (mesh.triangleCount() > dense || share < 1)) {
                heavy.add(item);
                double part = Math.max(0.02, Math.min(share, dense / mesh.triangleCount()));
                found.add(
                        item.path(),
                        item.title() + " has " + DisplayText.count(mesh.triangleCount(), "triangle")
                                + (share < 1
                                        ? "; the whole has " + DisplayText.number(drawn) + ", "
                                                + DisplayText.number((long) budget) + " are allowed"
                                        : " in " + DisplayText.length(size.length())),
                        simplifying(subject, item, part, limits.number("deviation") * size.length()));
            }
        });
        if (share < 1 && heavy.isEmpty()) {
            found.add(
                    subject.topPath(),
                    "there are " + DisplayText.count(drawn, "triangle") + "; " + DisplayText.number((long) budget)
                            + " are allowed",
                    null);
        }
    }
}
