package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.Published;
import pantry.scene.Layout;
import pantry.scene.LayoutFigures;
import pantry.scene.LayoutPlan;
import pantry.scene.ObjectEdges;
import pantry.scene.Overrides;
import pantry.scene.Replaced;
import pantry.scene.Scene;
import pantry.scene.SceneException;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Changes what stands in a scene already. */
abstract class ArrangeCommand extends SceneCommand<ArrangeCommand.Result> {
    @Parameters(index = "0", paramLabel = "SCENE", description = "The scene's file.")
    private Path sceneFile = Path.of("");

    /**
     * What was done.
     *
     * @param paths of the objects that came of it
     * @param told what else there is to say, such as overrides that are lost
     */
    record Result(String scene, List<String> paths, List<String> told) {}

    ArrangeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    /** What a change made. */
    record Done(List<SdfPath> paths, List<String> told) {
        static Done of(SdfPath path) {
            return new Done(List.of(path), List.of());
        }

        static Done of(List<SdfPath> paths) {
            return new Done(paths, List.of());
        }
    }

    abstract Done change(Scene scene);

    @Override
    Result work() {
        Scene scene = workbench.openScene(sceneFile);
        Done done = change(scene);
        save(scene);
        return new Result(
                scene.file().toString(),
                done.paths().stream().map(SdfPath::toString).toList(),
                done.told());
    }

    @Override
    void tell(Result result) {
        result.paths().forEach(path -> output.line("%s", path));
        result.told().forEach(line -> output.line("%s", line));
    }

    /** One more use of something. */
    @Command(name = "instance", description = "Use an object of the scene once more; the uses share what they show.")
    static final class Instance extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "OBJECT", description = "Its path or name.")
        private String what = "";

        @Mixin
        private Place where = new Place();

        Instance(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            SdfPath path = path(scene, what);
            return Done.of(scene.instancing()
                    .instance(path, where.name(path.name()), where.placing(this), where.under(this, scene)));
        }
    }

    /** Lets uses go their own way. */
    @Command(
            name = "break-out",
            description = "Let placements no longer share their insides, so that each can be changed.")
    static final class BreakOut extends ArrangeCommand {
        @Parameters(index = "1..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        BreakOut(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            List<SdfPath> paths = paths(scene, what);
            scene.structure().breakOut(paths);
            return Done.of(paths);
        }
    }

    /** Hangs things on one anchor. */
    @Command(name = "group", description = "Put objects under an anchor of their own; or take a group apart.")
    static final class Group extends ArrangeCommand {
        @Parameters(index = "1..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        @Option(names = "--name", paramLabel = "N", defaultValue = "Group", description = "The anchor's name.")
        private String name = "Group";

        @Option(names = "--ungroup", description = "Take these groups apart instead.")
        private boolean ungroup;

        Group(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            List<SdfPath> paths = paths(scene, what);
            return ungroup
                    ? Done.of(scene.structure().ungroup(paths))
                    : Done.of(scene.structure().group(paths, name));
        }
    }

    /** Lays something out many times. */
    @Command(
            name = "place",
            description = "Lay an object out many times: in a grid, a ring, along a path, or scattered.")
    static final class PlaceMany extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "OBJECT", description = "Its path or name.")
        private String what = "";

        @Option(names = "--grid", paramLabel = "NX,NY,NZ", description = "So many along x, y and z; with --step.")
        private Optional<String> grid = Optional.empty();

        @Option(
                names = "--step",
                paramLabel = "X,Y,Z",
                defaultValue = "1,1,1",
                description = "Metres from one to the next.")
        private String step = "1,1,1";

        @Option(names = "--ring", paramLabel = "COUNT,DEGREES", description = "Around an upright axis; with --centre.")
        private Optional<String> ring = Optional.empty();

        @Option(
                names = "--centre",
                paramLabel = "X,Y,Z",
                defaultValue = "0,0,0",
                description = "The axis, from the object.")
        private String centre = "0,0,0";

        @Option(names = "--along", paramLabel = "X,Y,Z", description = "A point of the path, from the object; several.")
        private List<String> along = List.of();

        @Option(names = "--smooth", description = "Let the path bend through its points.")
        private boolean smooth;

        @Option(
                names = "--count",
                paramLabel = "N",
                defaultValue = "10",
                description = "How many along a path or scattered.")
        private int count = 10;

        @Option(
                names = "--scatter",
                paramLabel = "WIDTH,DEPTH",
                description = "At random over an area around the object.")
        private Optional<String> scatter = Optional.empty();

        @Option(
                names = "--on",
                paramLabel = "SURFACE",
                description = "At random on the surface of this object; with --count or --density.")
        private Optional<String> surface = Optional.empty();

        @Option(names = "--density", paramLabel = "N", description = "How many for each square metre, with --on.")
        private Optional<Double> density = Optional.empty();

        @Option(
                names = "--steepest",
                paramLabel = "DEGREES",
                defaultValue = "60",
                description = "Steeper places stay free, with --on.")
        private double steepest = 60;

        @Option(names = "--tilted", description = "Square to the surface rather than upright, with --on.")
        private boolean tilted;

        @Option(
                names = "--apart",
                paramLabel = "M",
                defaultValue = "0",
                description = "No two scattered ones are nearer.")
        private double apart;

        @Option(
                names = "--vary",
                paramLabel = "DEGREES,SIZE",
                defaultValue = "0,0",
                description = "How much they may differ.")
        private String vary = "0,0";

        @Option(names = "--seed", paramLabel = "N", defaultValue = "1", description = "Gives the same again.")
        private long seed;

        @Option(names = "--name", paramLabel = "N", description = "The name of what they hang on.")
        private Optional<String> name = Optional.empty();

        @Option(names = "--edge", paramLabel = "OBJECT", description = "Along an edge of this object; with --near.")
        private Optional<String> edge = Optional.empty();

        @Option(
                names = "--near",
                paramLabel = "X,Y,Z",
                defaultValue = "0,0,0",
                description = "The edge that is nearest to this point of the world, metres.")
        private String near = "0,0,0";

        @Option(
                names = "--standing",
                negatable = true,
                description = "Let each stand on what is below it, or at the layout's own height.")
        private Optional<Boolean> standing = Optional.empty();

        @Option(
                names = "--with",
                paramLabel = "OBJECT=SHARE",
                description = "Another object that is mixed in, and how often compared with the first's share of 1;"
                        + " several.")
        private Map<String, Double> with = Map.of();

        @Option(
                names = "--again",
                description = "OBJECT was laid out before: lay it out otherwise. What was moved by hand stays.")
        private boolean again;

        PlaceMany(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            SdfPath path = path(scene, what);
            double[] differ = numbers("--vary", vary, 2);
            Layout.Variation variation = new Layout.Variation(differ[0], differ[1], "", List.of(), seed);
            Optional<LayoutFigures> before = again ? scene.layouts().kept(path) : Optional.empty();
            List<Double> shares = new ArrayList<>();
            if (!with.isEmpty()) {
                shares.add(1.0);
                shares.addAll(with.values());
            }
            LayoutPlan plan = new LayoutPlan(
                    layout(scene, path),
                    variation,
                    shares.isEmpty() ? before.map(LayoutFigures::shares).orElse(List.of()) : shares,
                    standing.or(() -> before.map(LayoutFigures::standing)).orElse(false));
            SdfPath group = path;
            if (again) {
                scene.layouts().relay(path, plan, output.progress());
                scene.undoName().ifPresent(said -> output.say("pantry: " + said));
            } else {
                List<SdfPath> objects = new ArrayList<>(List.of(path));
                with.keySet().forEach(each -> objects.add(path(scene, each)));
                group = scene.layouts().lay(objects, name.orElse(path.name() + " laid out"), plan, output.progress());
            }
            scene.layouts().shortfall(group).ifPresent(said -> output.say("pantry: " + said));
            return Done.of(group);
        }

        private Layout layout(Scene scene, SdfPath path) {
            if (grid.isPresent()) {
                double[] n = numbers("--grid", grid.get(), 3);
                return new Layout.Grid(new int[] {(int) n[0], (int) n[1], (int) n[2]}, triple("--step", step));
            }
            if (ring.isPresent()) {
                double[] n = numbers("--ring", ring.get(), 2);
                return new Layout.Ring((int) n[0], n[1], triple("--centre", centre), true);
            }
            if (!along.isEmpty()) {
                List<Vec3> points = new ArrayList<>(List.of(Vec3.ZERO));
                along.forEach(text -> points.add(triple("--along", text)));
                return new Layout.Along(points, count, true, smooth);
            }
            if (scatter.isPresent()) {
                double[] n = numbers("--scatter", scatter.get(), 2);
                return new Layout.Scatter(n[0], n[1], count, apart, seed);
            }
            if (surface.isPresent()) {
                return new Layout.OnSurface(
                        path(scene, surface.get()).toString(),
                        density.isPresent() ? 0 : count,
                        density.orElse(0.0),
                        apart,
                        steepest,
                        !tilted,
                        seed);
            }
            if (edge.isPresent()) {
                return alongEdge(scene, path, path(scene, edge.get()));
            }
            throw wrongCall("Say how: --grid, --ring, --along, --scatter, --on or --edge.");
        }

        private Layout alongEdge(Scene scene, SdfPath path, SdfPath of) {
            List<Vec3> line = ObjectEdges.near(
                            scene.model(), drawn -> SdfPath.of(drawn).startsWith(of), triple("--near", near))
                    .orElseThrow(
                            () -> new SceneException(scene.file(), "<" + of + "> has no edge to lay anything along"));
            Matrix4 space = scene.world(again ? path : path.parent()).orElse(Matrix4.IDENTITY);
            Vec3 stands = again
                    ? scene.layouts()
                            .kept(path)
                            .map(kept -> Matrix4.ofRows(kept.original()).translationPart())
                            .orElse(Vec3.ZERO)
                    : space.inverse()
                            .point(scene.world(path).orElse(Matrix4.IDENTITY).translationPart());
            return new Layout.Along(line.stream().map(space.inverse()::point).toList(), count, true, smooth, stands);
        }
    }

    /** Shows something else in the same place. */
    @Command(name = "replace", description = "Let placements show another asset or version, in the same place.")
    static final class Replace extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
        private String what = "";

        @Parameters(index = "2..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> objects = List.of();

        @ArgGroup
        private @Nullable Hold hold;

        /** At most one of them; without, those that are pinned are pinned to the ready version. */
        static final class Hold {
            @Option(
                    names = "--pin",
                    required = true,
                    paramLabel = "V",
                    description = "Hold on to one version, such as v001.")
            private Optional<String> pin = Optional.empty();

            @Option(
                    names = "--follow",
                    required = true,
                    description = "Let all follow what is ready; otherwise, those that are pinned are pinned to it.")
            private boolean follow;
        }

        Replace(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            Asset asset = asset(what);
            List<SdfPath> paths = paths(scene, objects);
            Hold held = hold;
            Replaced replaced = held == null
                    ? scene.placements().replaceAsHeld(paths, asset)
                    : scene.placements().replace(paths, asset, held.pin);
            List<String> told = new ArrayList<>();
            replaced.lost().forEach(lost -> told.add("says nothing any more, and is kept: " + lost));
            replaced.dropped().forEach(choice -> told.add("is no longer chosen, for it is not offered: " + choice));
            return new Done(paths, told);
        }
    }

    /** Cuts scenes up, and puts them together. */
    @Command(name = "section", description = "Cut objects out into a file of their own; or join a section again.")
    static final class Section extends ArrangeCommand {
        @Parameters(index = "1..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        @Option(names = "--name", paramLabel = "N", description = "The section's name.")
        private Optional<String> name = Optional.empty();

        @Option(names = "--join", description = "Take these sections back into the scene instead.")
        private boolean join;

        @Option(names = "--reserve", description = "Hold these sections, so that nobody else works on them.")
        private boolean reserve;

        @Option(names = "--release", description = "Let go of these sections.")
        private boolean release;

        Section(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            List<SdfPath> paths = paths(scene, what);
            if (reserve || release) {
                List<String> told = new java.util.ArrayList<>();
                for (SdfPath path : paths) {
                    if (reserve) {
                        scene.sections().reserve(path, workbench.who());
                    } else {
                        scene.sections().release(path, workbench.who());
                    }
                    told.add(path.name() + (reserve ? " is held by " + workbench.who() : " is free"));
                }
                return new Done(paths, told);
            }
            if (join) {
                return Done.of(paths.stream()
                        .flatMap(path -> scene.sections().join(path, workbench.who()).stream())
                        .toList());
            }
            return Done.of(scene.sections().cut(paths, name.orElseThrow(() -> wrongCall("Say its --name."))));
        }
    }

    /** Gives what was changed in a scene back to the asset. */
    @Command(name = "write-back", description = "Write the overrides of a placement back as its asset's next version.")
    static final class WriteBack extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "OBJECT", description = "Its path or name.")
        private String what = "";

        @Option(names = "--note", paramLabel = "N", defaultValue = "", description = "What to say of the version.")
        private String note = "";

        @Option(names = "--dry-run", description = "List the overrides, and change nothing.")
        private boolean dryRun;

        WriteBack(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            SdfPath path = path(scene, what);
            List<String> told = scene.overrides().of(path).stream()
                    .map(override -> override.path() + " = " + override.says())
                    .toList();
            if (dryRun) {
                return new Done(List.of(path), told);
            }
            Published published = scene.overrides()
                    .writeBack(
                            path,
                            note,
                            new Overrides.Publisher(
                                    file -> library(), workbench.prepSources(), workbench.renderCache()),
                            output.progress());
            return new Done(List.of(path), List.of("published as " + published.version()));
        }
    }
}
