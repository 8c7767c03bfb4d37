package pantry.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.scene.Anchors;
import pantry.scene.Focus;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;

/**
 * Skua Point on disk.
 *
 * @param library the library's folder
 * @param project the project's folder, with its scenes
 * @param arrivals a folder of files waiting to be received
 */
public record Demo(Path library, Path project, Path arrivals) {
    /** Changed when what is made changes, so that an older demo is made anew. */
    private static final String EDITION = "9";

    /** The folder beside the arrivals with the image that one of them lacks. */
    private static final String LOST = "lost-and-found";

    /** Where the demo is kept unless told otherwise. */
    public static Path usualFolder() {
        String data = System.getenv("XDG_DATA_HOME");
        return data != null && !data.isBlank()
                ? Path.of(data, "pantry", "demo")
                : Path.of(System.getProperty("user.home"), ".local", "share", "pantry", "demo");
    }

    /**
     * The demo in a folder; made where it is missing or of an older edition.
     *
     * @throws PantryException where the folder cannot be written, or holds something else
     */
    public static Demo in(Path folder, Workbench workbench, Progress progress) {
        Path root = folder.toAbsolutePath().normalize();
        Demo demo = new Demo(root.resolve("library"), root.resolve("project"), root.resolve("arrivals"));
        Path marker = root.resolve("skua-point.txt");
        try {
            if (Files.exists(marker) && Files.readString(marker).strip().equals(EDITION)) {
                return demo;
            }
            if (Files.exists(root) && !Files.exists(marker)) {
                try (var inside = Files.list(root)) {
                    if (inside.findAny().isPresent()) {
                        throw new PantryException(root, "holds something else; the demo needs a folder of its own");
                    }
                }
            }
            Files.createDirectories(root);
            for (Path part : List.of(
                    demo.library,
                    demo.project,
                    demo.expedition(),
                    demo.arrivals,
                    root.resolve(LOST),
                    root.resolve("images"),
                    root.resolve("scratch"))) {
                AtomicFiles.deleteTree(part);
            }
            // The marker comes last but for its first, unfinished form, which lets a stopped making be resumed.
            AtomicFiles.write(marker, "unfinished\n");
            demo.make(new Paints(root.resolve("images")), workbench, progress);
            AtomicFiles.write(marker, EDITION + "\n");
            return demo;
        } catch (IOException e) {
            throw new PantryException(root, "the demo cannot be made: " + IoProblems.describe(e), e);
        }
    }

    private void make(Paints paints, Workbench workbench, Progress progress) throws IOException {
        StationAssets station = new StationAssets(paints);
        Path scratch = library.resolveSibling("scratch");
        Map<String, Asset> assets = new Stock(workbench, paints, library, scratch).fill(station, progress);
        AtomicFiles.deleteTree(scratch);
        progress.step("laying out scenes", 0.9);
        Files.createDirectories(project);
        summer(workbench.createScene(project.resolve("summer-station.usda")), assets);
        mastField(workbench.createScene(project.resolve("mast-field.usda")), assets);
        new Expedition(workbench, assets, project, expedition()).make();
        progress.step("leaving arrivals at the door", 0.95);
        new Arrivals(arrivals, arrivals.resolveSibling(LOST), station).make();
    }

    private static void put(Scene scene, Asset asset, double x, double z, double turn) {
        scene.placements()
                .place(
                        asset,
                        Optional.empty(),
                        asset.card().name(),
                        new TransformComponents(new Vec3(x, 0, z), new Vec3(0, turn, 0), Vec3.ONE),
                        Optional.empty());
    }

    /** The station with its yard, by day and by night: about a hundred placements. */
    private static void summer(Scene scene, Map<String, Asset> assets) {
        for (int i = 0; i < 3; i++) {
            put(scene, assets.get("Living module"), i * 14.0 - 14, -4, 0);
        }
        put(scene, assets.get("Corridor link"), -7, -4, 0);
        put(scene, assets.get("Corridor link"), 7, -4, 0);
        put(scene, assets.get("Entry stairs"), 17.6, -4, 180);
        put(scene, assets.get("Radome on plinth"), -26, -12, 20);
        put(scene, assets.get("Lattice mast 9 m"), 27, -12, 0);
        put(scene, assets.get("Lattice mast 6 m"), 33, -4, 40);
        put(scene, assets.get("Tripod mast 3 m"), 22, 5, 15);
        for (int row = 0; row < 3; row++) {
            put(scene, assets.get("Solar array row"), -16, 7 + row * 4.0, 0);
            put(scene, assets.get("Solar array row"), -6.5, 7 + row * 4.0, 0);
        }
        for (int i = 0; i < 10; i++) {
            put(scene, assets.get("Walkway section"), 4 + i * 2.0, 0.6, 0);
        }
        for (int i = 0; i < 6; i++) {
            put(scene, assets.get("Battery box"), -18 + i * 1.6, 2.2, 0);
        }
        put(scene, assets.get("Generator skid"), 8, 5, 90);
        put(scene, assets.get("Generator skid"), 11, 5, 90);
        Random random = new Random(42);
        for (int i = 0; i < 24; i++) {
            put(
                    scene,
                    assets.get("Fuel drum"),
                    14 + i % 8 * 0.72 + random.nextDouble() * 0.06,
                    6 + i / 8 * 0.74 + random.nextDouble() * 0.06,
                    random.nextInt(360));
        }
        put(scene, assets.get("Snow tractor"), 4, 12, 35);
        put(scene, assets.get("Cargo sledge"), -0.4, 14.8, 35);
        put(scene, assets.get("Snow tractor"), 22, 13, -60);
        put(scene, assets.get("Cable drum"), 12, 10, 25);
        put(scene, assets.get("Cable drum"), 13.6, 10.6, -40);
        for (int i = 0; i < 24; i++) {
            put(scene, assets.get("Flag line post"), -34 + i * 3.0, 20 + 2.5 * Math.sin(i * 0.6), 10.0 * i);
        }
        crew(scene, assets);
        lightings(scene, assets);
        order(scene);
        scene.save();
    }

    /** Three of the crew, each at something else, and the cat. */
    private static void crew(Scene scene, Map<String, Asset> assets) {
        put(scene, assets.get("Technician"), 8.5, 7.6, 70);
        put(scene, assets.get("Technician"), 6.2, 8.2, 100);
        put(scene, assets.get("Radio operator"), 10.3, 8.6, -110);
        put(scene, assets.get("Station cat"), 7.6, 9.2, -20);
        List<SdfPath> crew = named(scene, "Technician");
        scene.motions().borrow(crew.subList(0, 1), assets.get("Carry a case"), Optional.empty());
        scene.motions().bind(crew.subList(1, 2), Optional.of("Wave"));
        scene.motions().time(crew.subList(1, 2), 0.5, 0.8);
    }

    /** Three lightings, of which one is switched in. */
    private static void lightings(Scene scene, Map<String, Asset> assets) {
        put(scene, assets.get("Low sun"), -27, 1, 0);
        put(scene, assets.get("Polar night"), -27, 3, 0);
        put(scene, assets.get("Ridge sky"), -27, 5, 0);
        put(scene, assets.get("Work lights"), -8, 4.6, 180);
        put(scene, assets.get("Work lights"), 9, 9.4, 150);
        scene.alternates().add("hour", "day");
        scene.alternates().keep("hour", "day", named(scene, "Low_sun"));
        scene.alternates().add("hour", "night");
        scene.alternates().keep("hour", "night", named(scene, "Polar_night", "Work_lights"));
        scene.alternates().add("hour", "evening");
        scene.alternates().keep("hour", "evening", named(scene, "Ridge_sky"));
        scene.alternates().choose("hour", "day");
    }

    /** Drawers, what is there only before the supply ship comes, and ways to look. */
    private static void order(Scene scene) {
        scene.drawers().put("Flags", named(scene, "Flag_line"));
        scene.drawers().put("Power", named(scene, "Solar_", "Battery_", "Generator_"));
        List<SdfPath> supplies = named(scene, "Fuel_drum", "Cable_drum");
        scene.alternates().add("supplies", "shipped");
        scene.alternates().add("supplies", "landed");
        scene.alternates().keep("supplies", "landed", supplies);
        Anchors.Mark mark = new Anchors.Mark(Anchors.Shape.RING, 2, 0xB9770E);
        scene.anchors()
                .make("Survey point", mark, TransformComponents.ORIGIN.withMove(new Vec3(0, 0, 16)), Optional.empty());
        Focus.Eye modules = new Focus.Eye(new double[] {2, 2, -3}, 24, 12, 44, false);
        scene.focuses().keep(new Focus("Modules", Focus.Detail.FULL, Set.of("Flags"), Set.of(), Optional.of(modules)));
    }

    private static List<SdfPath> named(Scene scene, String... beginnings) {
        return scene.placements().all().stream()
                .map(Placement::path)
                .filter(path -> Arrays.stream(beginnings).anyMatch(path.name()::startsWith))
                .toList();
    }

    /** Masts with their instruments, in a line across the wind: 64 placements. */
    private static void mastField(Scene scene, Map<String, Asset> assets) {
        for (int i = 0; i < 8; i++) {
            double x = i * 6.0 - 21;
            put(scene, assets.get(i % 2 == 0 ? "Lattice mast 9 m" : "Lattice mast 6 m"), x, 0, 15.0 * i);
            put(scene, assets.get("Tripod mast 3 m"), x + 2, 4.5, 30.0 * i);
            put(scene, assets.get("Solar panel"), x - 1.2, 6, 0);
            put(scene, assets.get("Battery box"), x - 1.2, 7.4, 0);
            double top = i % 2 == 0 ? 9.5 : 6.5;
            scene.placements()
                    .place(
                            assets.get("Cup anemometer"),
                            Optional.of("v001"),
                            "Cup anemometer",
                            new TransformComponents(new Vec3(x, top, 0), Vec3.ZERO, Vec3.ONE),
                            Optional.empty());
            scene.placements()
                    .place(
                            assets.get("Radiation screen"),
                            Optional.of("v001"),
                            "Radiation screen",
                            new TransformComponents(new Vec3(x + 2, 2.98, 4.5), Vec3.ZERO, Vec3.ONE),
                            Optional.empty());
        }
        for (int i = 0; i < 16; i++) {
            put(scene, assets.get("Flag line post"), i * 3.2 - 24, 11, 20.0 * i);
        }
        scene.save();
    }

    /** The folder of the second project. */
    public Path expedition() {
        return project.resolveSibling("expedition");
    }

    /** The project's scenes. */
    public List<Path> scenes() {
        List<Path> scenes = new ArrayList<>();
        scenes.add(project.resolve("summer-station.usda"));
        scenes.add(project.resolve("mast-field.usda"));
        return scenes;
    }

    /** Makes the arrivals that Prep is for: one full of twins modelled in place, one left in haste. */
    public static void makeFlawedArrivals(Path folder) {
        new FlawedArrivals(folder).make();
    }
}
