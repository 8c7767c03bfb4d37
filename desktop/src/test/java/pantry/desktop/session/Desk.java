package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import javafx.application.Platform;
import org.jspecify.annotations.Nullable;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.workbench.Workbench;

/** A session with a library and a project in a temporary folder, whose work is done at once and in order. */
public final class Desk implements AutoCloseable {
    /** A flag a metre high that hangs on a rope, and is pulled up by four metres. */
    public static final String FLAG = """
            #usda 1.0
            ( defaultPrim = "Flag" metersPerUnit = 1 upAxis = "Y" )
            def SkelRoot "Flag" (prepend apiSchemas = ["SkelBindingAPI"]) {
                rel skel:skeleton = </Flag/Bones>
                def Skeleton "Bones" {
                    uniform token[] joints = ["Rope"]
                    uniform matrix4d[] bindTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                    uniform matrix4d[] restTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                    def SkelAnimation "Hoist" {
                        uniform token[] joints = ["Rope"]
                        float3[] translations.timeSamples = { 0: [(0,0,0)], 48: [(0,4,0)] }
                        quatf[] rotations = [(1,0,0,0)]
                        half3[] scales = [(1,1,1)]
                    }
                }
                def Mesh "Cloth" (prepend apiSchemas = ["SkelBindingAPI"]) {
                    int[] faceVertexCounts = [3]
                    int[] faceVertexIndices = [0, 1, 2]
                    point3f[] points = [(0,0,0), (1,0,0), (0,1,0)]
                    int[] primvars:skel:jointIndices = [0] ( interpolation = "constant" )
                    float[] primvars:skel:jointWeights = [1] ( interpolation = "constant" )
                }
            }
            """;

    private final Path folder;
    private final Workbench workbench;
    private final Session session;
    private final Library library;
    private final AtOnce atOnce = new AtOnce();

    public Desk(Path folder) throws java.io.IOException {
        this.folder = folder;
        workbench = new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
        library = workbench.createLibrary(folder.resolve("library"), "Shelves");
        Files.createDirectories(folder.resolve("project"));
        session = new Session(workbench, new Background(atOnce::work, atOnce::work, atOnce::show));
    }

    /**
     * Does all work on the thread that asks for it. What other threads want to show meanwhile waits for that thread where
     * it is the interface's, and is shown at once otherwise.
     */
    private static final class AtOnce {
        private final Queue<Runnable> waiting = new ConcurrentLinkedQueue<>();
        private final Queue<Runnable> held = new ConcurrentLinkedQueue<>();
        private volatile @Nullable Thread asking;
        private boolean holding;

        void work(Runnable work) {
            if (holding) {
                held.add(work);
                return;
            }
            Thread before = asking;
            asking = Platform.isFxApplicationThread() ? Thread.currentThread() : null;
            try {
                work.run();
                showWaiting();
            } finally {
                asking = before;
            }
        }

        void show(Runnable showing) {
            if (asking == null || asking == Thread.currentThread()) {
                showWaiting();
                showing.run();
            } else {
                waiting.add(showing);
            }
        }

        private void showWaiting() {
            for (Runnable next = waiting.poll(); next != null; next = waiting.poll()) {
                next.run();
            }
        }
    }

    /** From now on, work in the background waits, as if it took long. */
    public void holdWork() {
        atOnce.holding = true;
    }

    /** Does what waits, in order, and holds nothing any more. */
    public void releaseWork() {
        atOnce.holding = false;
        for (Runnable next = atOnce.held.poll(); next != null; next = atOnce.held.poll()) {
            atOnce.work(next);
        }
    }

    public Session session() {
        return session;
    }

    public Workbench workbench() {
        return workbench;
    }

    public Library library() {
        return library;
    }

    /** Opens the library and the project, after the view models have been made. */
    public void open() {
        session.openLibrary(library.root());
        session.projectProperty().set(Optional.of(folder.resolve("project")));
    }

    /** A block of one metre width and depth, painted white. */
    public static Model block(String name, double height) {
        Material paint = Material.plain("Paint", Colour.WHITE, 0, 1);
        return new Model(
                name,
                List.of(Model.Node.of(
                        "Body",
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(Shapes.block(1, height, 1), paint)),
                        List.of())),
                Model.Extras.NONE);
    }

    /** A block that goes up by two metres in a second, and down in half of one. */
    public static Model lift() {
        List<Skeleton.Joint> joints =
                List.of(new Skeleton.Joint("Lift", Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY));
        Motion rise = Motion.of("Rise", new float[] {0, 1}, 1, key -> new JointTransform[] {up(2.0 * key)});
        Motion sink = Motion.of("Sink", new float[] {0, 0.5f}, 1, key -> new JointTransform[] {up(-2.0 * key)});
        return block("Lift", 1)
                .withMeshes(mesh -> Skin.rigid(mesh, 0))
                .with(Model.Extras.NONE.with(Optional.of(new Skeleton(joints, List.of(rise, sink)))));
    }

    private static JointTransform up(double metres) {
        return JointTransform.of(Matrix4.translation(new Vec3(0, metres, 0)));
    }

    /** Shelves a block. */
    public Asset shelve(String name, String shelf, double height, String... tags) {
        Slip slip = Slip.plain(name, AssetKind.MODEL, shelf, 1, Axis.Y).withTags(List.of(tags));
        return workbench
                .intake()
                .shelve(block(name, height), slip, library, Progress.NONE)
                .asset();
    }

    /** Shelves a file as it is, in metres. */
    public void receive(Path file, String name, String shelf) {
        Intake intake = workbench.intake();
        Imported read = intake.read(file, Progress.NONE);
        Slip slip =
                Intake.suggested(read, shelf, Neighbours.NONE).withName(name).withFactor(1);
        intake.shelve(read, slip, library, Progress.NONE);
    }

    /** Writes a block as a file. */
    public Path file(String name, double height) {
        Path file = folder.resolve(name);
        ModelWriters.write(block("Block", height), file);
        return file;
    }

    /** Closes the workbench; no action may have had a fault. */
    @Override
    public void close() {
        workbench.close();
        requireNoFault(session);
    }

    /** Actions of the window that have a fault tell so in the ledger, and end nothing. */
    public static void requireNoFault(Session session) {
        session.ledger().forEach(line -> assertThat(line.text()).doesNotContain("fault of Pantry's own"));
    }
}
