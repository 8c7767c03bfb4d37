package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexDatabase;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** Copies of a bracket of two meshes, exported into scenes in several ways. */
class StraysTest extends WithWorkshop {
    private static final Mesh FOOT = Shapes.block(1, 0.2, 0.6);
    private static final Mesh ARM = Shapes.block(0.2, 1, 0.3).transformed(Matrix4.translation(new Vec3(0.4, 0.2, 0.1)));

    private IndexDatabase database;
    private UseIndex index;
    private Path project;
    private Asset bracket;

    @BeforeEach
    void build() throws IOException {
        database = IndexDatabase.open(folder.resolve("index.sqlite"));
        index = new UseIndex(database);
        project = Files.createDirectories(folder.resolve("project"));
        Model model = new Model(
                "Bracket",
                List.of(
                        Model.Node.of("Foot", Matrix4.IDENTITY, List.of(new Model.Part(FOOT, Workshop.RED)), List.of()),
                        Model.Node.of("Arm", Matrix4.IDENTITY, List.of(new Model.Part(ARM, Workshop.RED)), List.of())),
                Model.Extras.NONE);
        bracket = workshop.intake()
                .shelve(model, Workshop.slip("Bracket", "Parts"), library, Progress.NONE)
                .asset();
        workshop.block("Block", "Parts", 1);
    }

    @AfterEach
    void closeDatabase() {
        database.close();
    }

    private static void mesh(PrimSpec parent, String name, Mesh mesh) {
        PrimSpec prim = parent.define("Mesh", name);
        prim.set("point3f[]", "points", new Value.Floats(mesh.points(), 3));
        prim.set("int[]", "faceVertexCounts", new Value.Ints(mesh.faceSizes(), 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(mesh.corners(), 1));
    }

    /** The same with its points in the opposite order. */
    private static Mesh reordered(Mesh mesh) {
        float[] points = new float[mesh.points().length];
        int count = mesh.pointCount();
        for (int i = 0; i < count; i++) {
            System.arraycopy(mesh.points(), 3 * i, points, 3 * (count - 1 - i), 3);
        }
        int[] corners = mesh.corners().clone();
        for (int i = 0; i < corners.length; i++) {
            corners[i] = count - 1 - corners[i];
        }
        return new Mesh(points, mesh.faceSizes(), corners, null, null);
    }

    /** A scene in which two brackets stand: one as it is below a turned group, one baked, turned, and in another order. */
    private Path scene() {
        Path file = project.resolve("old.usda");
        Layer layer = Layer.inMetres(file, "World");
        PrimSpec world = layer.root().define("Xform", "World");
        PrimSpec group = world.define("Xform", "Group");
        new TransformComponents(new Vec3(3, 0, -2), new Vec3(0, 40, 10), Vec3.ONE).write(group);
        PrimSpec first = group.define("Xform", "Bracket");
        new TransformComponents(new Vec3(1, 0.5, 0), new Vec3(20, 0, 0), new Vec3(2, 2, 2)).write(first);
        mesh(first, "Foot", FOOT);
        mesh(first, "Arm", ARM);
        Matrix4 place = new TransformComponents(new Vec3(-6, 1, 4), new Vec3(0, 130, 0), Vec3.ONE).matrix();
        PrimSpec second = world.define("Xform", "Imported");
        mesh(second, "A", reordered(ARM.transformed(place)));
        mesh(second, "B", reordered(FOOT.transformed(place)));
        // Half of one is none, and neither is something else of as many triangles.
        mesh(world.define("Xform", "Half"), "Foot", FOOT);
        PrimSpec other = world.define("Xform", "Other");
        mesh(other, "One", Shapes.block(1, 2, 3));
        mesh(other, "Two", Shapes.block(3, 2, 1).transformed(Matrix4.translation(new Vec3(5, 0, 0))));
        LayerFiles.write(layer, file);
        return file;
    }

    private List<Strays.Group> find() {
        List<Project> projects = List.of(Project.open(project));
        index.refresh(projects, List.of(library), Progress.NONE);
        return Strays.find(new Reach(index, List.of(library), projects), Progress.NONE);
    }

    /** All vertices in the world, sorted. */
    private List<Vec3> vertices(Path file) {
        List<Vec3> all = new ArrayList<>();
        UsdModelReader.read(Stage.open(LayerFiles.read(file), workshop.layers()), new MeshCache())
                .model()
                .visit((node, part, world) -> {
                    Mesh mesh = part.mesh();
                    for (int i = 0; i < mesh.pointCount(); i++) {
                        all.add(world.point(mesh.point(i)));
                    }
                });
        all.sort(Comparator.comparingDouble((Vec3 v) -> Math.rint(v.x() * 1e4))
                .thenComparingDouble(v -> Math.rint(v.y() * 1e4))
                .thenComparingDouble(v -> Math.rint(v.z() * 1e4)));
        return all;
    }

    @Test
    void copiesAreFoundHoweverTheyStandAndBecomePlacementsWithEveryVertexWhereItWas() {
        Path file = scene();
        List<Strays.Group> groups = find();
        assertThat(groups).singleElement().satisfies(group -> {
            assertThat(group.asset().card().id()).isEqualTo(bracket.card().id());
            assertThat(group.copies())
                    .extracting(copy -> copy.path().toString())
                    .containsExactlyInAnyOrder("/World/Group/Bracket", "/World/Imported");
            assertThat(group.deviation()).isLessThan(1e-5);
        });
        List<Vec3> before = vertices(file);
        ChangeRuns runs = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC());
        ChangeRuns.Done done = runs.run("placed", Strays.placing(groups), each -> "", Progress.NONE);
        assertThat(done.changes()).isEqualTo(2);
        List<Vec3> after = vertices(file);
        assertThat(after).hasSameSizeAs(before);
        for (int i = 0; i < before.size(); i++) {
            assertThat(after.get(i).minus(before.get(i)).length()).isCloseTo(0, within(1e-6));
        }
        assertThat(find()).isEmpty();
        assertThat(new Reach(index, List.of(library), List.of(Project.open(project))).uses(bracket, Optional.empty()))
                .extracting(Reach.SceneUse::placements)
                .containsExactly(2L);
        Layer layer = LayerFiles.read(file);
        assertThat(Xforms.local(Stage.open(layer, workshop.layers())
                        .prim(SdfPath.of("/World/Group"))
                        .orElseThrow()))
                .as("what it hangs on is as it was")
                .isNotEqualTo(Matrix4.IDENTITY);
        runs.undo(done.id());
        assertThat(vertices(file)).isEqualTo(before);
    }

    @Test
    void aFileInCentimetresWithZUpIsNoObstacle() {
        Path file = project.resolve("foreign.usda");
        Layer layer = new Layer(file);
        layer.metadata().put("metersPerUnit", new Value.Real(0.01));
        layer.metadata().put("upAxis", new Value.Token("Z"));
        layer.metadata().put("defaultPrim", new Value.Token("Root"));
        Matrix4 place = Matrix4.scale(new Vec3(100, 100, 100)).times(Matrix4.rotation(0, 90));
        PrimSpec root = layer.root().define("Xform", "Root");
        PrimSpec copy = root.define("Xform", "Copy");
        mesh(copy, "Foot", FOOT.transformed(place));
        mesh(copy, "Arm", ARM.transformed(place));
        LayerFiles.write(layer, file);
        List<Vec3> before = vertices(file);
        List<Strays.Group> groups = find();
        assertThat(groups).singleElement().satisfies(group -> assertThat(group.copies())
                .singleElement()
                .satisfies(each -> assertThat(each.path().toString()).isEqualTo("/Root/Copy")));
        new ChangeRuns(folder.resolve("changes"), Clock.systemUTC())
                .run("placed", Strays.placing(groups), each -> "", Progress.NONE);
        List<Vec3> after = vertices(file);
        assertThat(after).hasSameSizeAs(before);
        for (int i = 0; i < before.size(); i++) {
            assertThat(after.get(i).minus(before.get(i)).length()).isCloseTo(0, within(1e-4));
        }
    }

    /** Two files hold the same lump, turned and scaled; a third holds one that is of its own. */
    @Test
    void whatRecursWithoutBeingAnAssetIsTold() throws IOException {
        String lump = """
                #usda 1.0
                def Xform "Hill" {
                    def Xform "%s" {
                        double3 xformOp:rotateXYZ = (0, %d, 0)
                        uniform token[] xformOpOrder = ["xformOp:rotateXYZ"]
                        def Mesh "Lump" {
                            point3f[] points = [%s]
                            int[] faceVertexCounts = [%s]
                            int[] faceVertexIndices = [%s]
                        }
                    }
                }
                """;
        for (int file = 0; file < 3; file++) {
            java.util.Random lumps = new java.util.Random(file == 2 ? 5 : 1);
            StringBuilder points = new StringBuilder("(0, 3, 0)");
            StringBuilder corners = new StringBuilder();
            int around = 30;
            for (int i = 0; i < around; i++) {
                points.append(String.format(
                        java.util.Locale.ROOT,
                        ", (%.5f, %.5f, %.5f)",
                        Math.cos(i * 2 * Math.PI / around) + 0.1 * lumps.nextGaussian(),
                        0.1 * lumps.nextGaussian(),
                        Math.sin(i * 2 * Math.PI / around)));
                corners.append(i == 0 ? "" : ", ")
                        .append("0, ")
                        .append(1 + i)
                        .append(", ")
                        .append(1 + (i + 1) % around);
            }
            Files.writeString(
                    project.resolve("hill" + file + ".usda"),
                    lump.formatted(
                            "Stone" + file,
                            40 * file,
                            points,
                            String.join(", ", java.util.Collections.nCopies(around, "3")),
                            corners));
        }
        List<Strays.Group> groups = find();
        Reach reach = new Reach(index, List.of(library), List.of(Project.open(project)));
        assertThat(Strays.recurring(reach, groups, Progress.NONE))
                .singleElement()
                .satisfies(recurring -> {
                    assertThat(recurring.triangles()).isEqualTo(30);
                    assertThat(recurring.copies())
                            .extracting(copy -> copy.file().getFileName() + " " + copy.path())
                            .containsExactlyInAnyOrder("hill0.usda /Hill/Stone0", "hill1.usda /Hill/Stone1");
                });
    }
}
