package pantry.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.project.Project;
import pantry.project.ProjectInfo;
import pantry.scene.Scene;
import pantry.usd.AssetPaths;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;

/**
 * A second project, and more scenes for the first: by season, by lighting and by layout; with placements that are behind,
 * two versions of an asset in one scene, a library that stood elsewhere, a texture that is lost, and a delivery of which
 * everything is pinned.
 */
final class Expedition {
    private final Workbench workbench;
    private final Map<String, Asset> assets;
    private final Path station;
    private final Path folder;

    /**
     * @param station the first project's folder
     * @param folder the second one's
     */
    Expedition(Workbench workbench, Map<String, Asset> assets, Path station, Path folder) {
        this.workbench = workbench;
        this.assets = assets;
        this.station = station;
        this.folder = folder;
    }

    void make() throws IOException {
        Path library = library();
        for (Map.Entry<Path, String> named : Map.of(station, "Skua Point station", folder, "Ridge expedition")
                .entrySet()) {
            String path = named.getKey().relativize(library).toString().replace('\\', '/');
            Project.open(Files.createDirectories(named.getKey()))
                    .with(new ProjectInfo(
                            named.getValue(),
                            List.of(new ProjectInfo.LibraryLink(
                                    workbench.openLibrary(library).info().id(), path)),
                            List.of(),
                            List.of()));
        }
        lamps(station.resolve("lighting/lamps.usda"));
        season("winter", "It is referenced whole, so what changes in summer changes here too");
        season("storm", "As winter, with the flags taken in");
        northYard();
        camp();
        winterCamp();
        traverse();
        delivery();
        signs();
        fuelDepot();
        oldYards();
    }

    private Path library() {
        Path at = assets.values().iterator().next().folder();
        while (!pantry.library.Library.isLibrary(at)) {
            at = at.getParent();
        }
        return at;
    }

    private Scene scene(Path file) throws IOException {
        Files.createDirectories(file.getParent());
        return workbench.createScene(file);
    }

    private void put(Scene scene, String asset, Optional<String> version, TransformComponents place) {
        scene.placements().place(assets.get(asset), version, asset, place, Optional.empty());
    }

    private void put(Scene scene, String asset, double x, double z, double turn) {
        put(scene, asset, Optional.empty(), at(x, z, turn));
    }

    /** On the ground, metres, turned about the upright, degrees. */
    private static TransformComponents at(double x, double z, double turn) {
        return new TransformComponents(new Vec3(x, 0, z), new Vec3(0, turn, 0), Vec3.ONE);
    }

    private static void write(Path file, String text) throws IOException {
        Files.createDirectories(file.getParent());
        Files.writeString(file, text);
    }

    /** A master of lamps and a camera, which others have as a sublayer. */
    private void lamps(Path file) throws IOException {
        write(file, """
                #usda 1.0
                (
                    defaultPrim = "Lamps"
                    metersPerUnit = 1
                    upAxis = "Y"
                )

                def Xform "Lamps"
                {
                    def DistantLight "Sun"
                    {
                        float inputs:intensity = 2
                        double3 xformOp:rotateXYZ = (-18, 40, 0)
                        uniform token[] xformOpOrder = ["xformOp:rotateXYZ"]
                    }

                    def Camera "Wide"
                    {
                        float focalLength = 24
                        double3 xformOp:translate = (0, 12, 48)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                }
                """);
    }

    private void season(String name, String comment) throws IOException {
        write(station.resolve("seasons/" + name + "-station.usda"), """
                #usda 1.0
                (
                    "%2$s"
                    defaultPrim = "%1$s_station"
                    metersPerUnit = 1
                    upAxis = "Y"
                    subLayers = [
                        @../lighting/lamps.usda@
                    ]
                )

                def Xform "%1$s_station"
                {
                    def Xform "Station" (
                        prepend references = @../summer-station.usda@
                    )
                    {
                    }
                }
                """.formatted(name, comment));
    }

    /** A layout tried out of assets and prefabs, three levels deep, with a version that is behind. */
    private void northYard() throws IOException {
        Scene scene = scene(station.resolve("layouts/north-yard.usda"));
        put(scene, "Solar field", 0, 0, 0);
        put(scene, "Radome on plinth", -20, -8, 0);
        put(scene, "Cup anemometer", Optional.of("v001"), at(-18, 6, 0));
        put(scene, "Generator skid", 16, 4, 90);
        scene.save();
    }

    private void camp() throws IOException {
        Scene scene = scene(folder.resolve("camp.usda"));
        for (int i = 0; i < 5; i++) {
            put(scene, "Dome hut", i * 7.0 - 14, 0, 12.0 * i);
        }
        put(scene, "Snow tractor", 4, 9, 30);
        put(scene, "Cargo sledge", 0, 11, 30);
        for (int i = 0; i < 12; i++) {
            put(scene, "Fuel drum", 10 + i % 4 * 0.8, 8 + i / 4 * 0.8, 30.0 * i);
        }
        scene.save();
    }

    /** Of the anemometer and of the screen, old versions beside those that are ready. */
    private void winterCamp() throws IOException {
        Scene scene = scene(folder.resolve("winter/camp-winter.usda"));
        put(scene, "Dome hut", 0, 0, 0);
        put(scene, "Dome hut", 8, 1, 15);
        for (int i = 0; i < 3; i++) {
            put(scene, "Tripod mast 3 m", -8 + i * 3.0, 6, 0);
            put(scene, "Cup anemometer", Optional.of("v001"), at(-8 + i * 3.0, 7, 0));
            put(scene, "Cup anemometer", -8 + i * 3.0, 8, 0);
        }
        put(scene, "Radiation screen", Optional.of("v001"), at(6, 6, 0));
        put(scene, "Radiation screen", 7, 6, 0);
        scene.save();
    }

    private void traverse() throws IOException {
        Scene scene = scene(folder.resolve("winter/traverse.usda"));
        put(scene, "Snow tractor", 0, 0, 0);
        put(scene, "Cargo sledge", 0, 6, 0);
        put(scene, "Cargo sledge", 0, 12, 0);
        put(scene, "Radiation screen", Optional.of("v001"), at(2, 12, 0));
        for (int i = 0; i < 10; i++) {
            put(scene, "Flag line post", 4, i * 4.0, 0);
        }
        scene.save();
    }

    private void delivery() throws IOException {
        Scene scene = scene(folder.resolve("delivery/camp-delivered.usda"));
        for (String name : List.of("Dome hut", "Snow tractor", "Cargo sledge", "Fuel drum")) {
            Optional<String> ready = assets.get(name).ready();
            for (int i = 0; i < 3; i++) {
                put(scene, name, ready, at(i * 8.0, name.length() * 1.5, 0));
            }
        }
        scene.save();
    }

    /** Names an image that went lost on the way; it lies with what was found. */
    private void signs() throws IOException {
        write(folder.resolve("signs.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Signs"
                    metersPerUnit = 1
                    upAxis = "Y"
                )

                def Xform "Signs"
                {
                    def Material "Label"
                    {
                        def Shader "Image"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @./textures/crate-label.png@
                        }
                    }
                }
                """);
    }

    /** Made while the library stood on another drive. */
    private void fuelDepot() throws IOException {
        Scene scene = scene(folder.resolve("fuel-depot.usda"));
        for (int i = 0; i < 20; i++) {
            put(scene, "Fuel drum", i % 5 * 0.8, i / 5 * 0.8, 18.0 * i);
        }
        put(scene, "Gas bottle", 6, 0, 0);
        scene.save();
        Path file = scene.file();
        String here = AssetPaths.relative(folder, library());
        Files.writeString(file, Files.readString(file).replace("@" + here + "/", "@../old-drive/shelves/"));
    }

    /** Copies of assets that were once exported: in one file as they were, in the other turned and in one piece. */
    private void oldYards() throws IOException {
        List<Model.Node> kept = new ArrayList<>();
        List<Model.Node> baked = new ArrayList<>();
        for (String name : List.of("Fuel drum", "Gas bottle", "Battery box")) {
            Model model = model(assets.get(name));
            for (int i = 0; i < 3; i++) {
                Matrix4 place = new TransformComponents(
                                new Vec3(i * 1.4, 0, kept.size() * 0.7), new Vec3(0, 35.0 * i, 0), Vec3.ONE)
                        .matrix();
                kept.add(Model.Node.of(name + " " + (i + 1), place, List.of(), model.roots()));
            }
            List<Model.Part> parts = new ArrayList<>();
            Matrix4 turned = new TransformComponents(
                            new Vec3(baked.size() * 2.0, 0.4, 3), new Vec3(90, 20.0 * name.length(), 0), Vec3.ONE)
                    .matrix();
            model.visit((node, part, world) ->
                    parts.add(new Model.Part(part.mesh().transformed(world.times(turned)), part.material())));
            List<Model.Node> pieces = new ArrayList<>();
            for (Model.Part part : parts.reversed()) {
                pieces.add(Model.Node.of("Piece " + (pieces.size() + 1), Matrix4.IDENTITY, List.of(part), List.of()));
            }
            baked.add(Model.Node.of("Merged " + (baked.size() + 1), Matrix4.IDENTITY, List.of(), pieces));
        }
        Files.createDirectories(folder.resolve("old"));
        ModelWriters.write(new Model("Old yard", kept, Model.Extras.NONE), folder.resolve("old/yard.usda"));
        ModelWriters.write(new Model("Merged yard", baked, Model.Extras.NONE), folder.resolve("old/yard-merged.usda"));
    }

    private Model model(Asset asset) {
        Path entry = asset.entryLayer(asset.shown().orElseThrow());
        LayerCache layers = workbench.layers(entry);
        return UsdModelReader.read(Stage.open(layers.open(entry), layers), new MeshCache())
                .model();
    }
}
