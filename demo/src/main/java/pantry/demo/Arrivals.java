package pantry.demo;

import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Model;
import pantry.model.Texture;

/** What waits at the door: fifteen things in five folders, most of them with something to be put right. */
final class Arrivals {
    private final Path folder;
    private final Path lost;
    private final StationAssets station;

    /**
     * @param folder for the arrivals
     * @param lost for the image that did not come along
     */
    Arrivals(Path folder, Path lost, StationAssets station) {
        this.folder = folder;
        this.lost = lost;
        this.station = station;
    }

    void make() throws IOException {
        for (String name : List.of("field-crew", "workshop", "visitors", "survey", "drafting-office")) {
            Files.createDirectories(folder.resolve(name));
        }
        Files.createDirectories(lost);
        fieldCrew(folder.resolve("field-crew"));
        workshop(folder.resolve("workshop"));
        visitors(folder.resolve("visitors"));
        survey(folder.resolve("survey"));
        new FlawedArrivals(folder.resolve("drafting-office")).make();
        Files.writeString(folder.resolve("drafting-office/office-hut.ifc"), OfficeHut.text());
        Files.writeString(folder.resolve("visitors/beckon.bvh"), LivingAssets.beckon());
    }

    private Model asset(String name) {
        return station.recipes().stream()
                .map(Recipe::model)
                .filter(model -> model.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    /** In millimetres, with Z up, and a plain one. */
    private void fieldCrew(Path to) {
        Matrix4 toMillimetres = Matrix4.scale(new Vec3(1000, 1000, 1000));
        ModelWriters.write(asset("Tripod mast 3 m").reframed(toMillimetres), to.resolve("tripod-mast-millimetres.obj"));
        ModelWriters.write(StationAssets.tank().reframed(Axis.Z.toYUp().inverse()), to.resolve("water-tank-z-up.ply"));
        Kit anchor = new Kit().part("Anchor");
        anchor.cylinder(Paints.DARK_STEEL, 0.03, 0.7, 0, 0, 0).block(Paints.DARK_STEEL, 0.4, 0.03, 0.4, 0, 0.7, 0);
        anchor.lathe(Paints.DARK_STEEL, new double[] {0.06, 0.06, 0}, new double[] {0.73, 0.8, 0.84}, 0, 0, 0);
        ModelWriters.write(anchor.model("Guy anchor"), to.resolve("guy-anchor.stl"));
    }

    /** With an image that stayed behind, and two that are as they should be. */
    private void workshop(Path to) throws IOException {
        Path label = to.resolve("crate-label.png");
        Path kept = lost.resolve("Crate-Label.PNG");
        ImageIO.write(labelImage(), "png", label.toFile());
        ImageIO.write(labelImage(), "png", kept.toFile());
        ModelWriters.write(
                withImages(station.crate(new Texture("crate-label.png", Optional.of(label))), to),
                to.resolve("supply-crate-lost-label.obj"));
        // The image does not come along: that is what this arrival is for.
        Files.delete(label);
        Kit tray = new Kit().part("Tray");
        tray.block(Paints.DARK_STEEL, 2.4, 0.02, 0.3, 0, 0, 0);
        tray.block(Paints.DARK_STEEL, 2.4, 0.08, 0.01, 0, 0.02, -0.145);
        tray.block(Paints.DARK_STEEL, 2.4, 0.08, 0.01, 0, 0.02, 0.145);
        for (int i = 0; i < 9; i++) {
            tray.part("Rung " + (i + 1)).block(Paints.DARK_STEEL, 0.03, 0.02, 0.28, -1.1 + i * 0.275, 0.02, 0);
        }
        ModelWriters.write(tray.model("Cable tray"), to.resolve("cable-tray.glb"));
        Files.writeString(to.resolve("deck-paints.mtlx"), deckPaints());
        ModelWriters.write(door(0), to.resolve("hut-door_shut.glb"));
        ModelWriters.write(door(-78), to.resolve("hut-door_open.glb"));
    }

    /** A door in its frame, on hinges at the left; received as one thing in two states. */
    private static Model door(double degrees) {
        Kit door = new Kit().part("Frame");
        for (double x : new double[] {-0.52, 0.52}) {
            door.block(Paints.DARK_STEEL, 0.08, 2.1, 0.12, x, 0, 0);
        }
        door.block(Paints.DARK_STEEL, 1.12, 0.08, 0.12, 0, 2.1, 0).block(Paints.DARK_STEEL, 1.12, 0.02, 0.12, 0, 0, 0);
        door.part("Leaf");
        Matrix4 turned = Matrix4.rotation(1, degrees).times(Kit.at(-0.47, 0.03, 0.03));
        door.add(
                Paints.OCHRE, Shapes.block(0.94, 2.05, 0.06), Kit.at(0.47, 0, 0).times(turned));
        door.add(
                Paints.GLASS,
                Shapes.block(0.34, 0.4, 0.08),
                Kit.at(0.47, 1.35, 0).times(turned));
        door.part("Handle");
        for (double z : new double[] {-0.06, 0.06}) {
            door.add(
                    Paints.ALUMINIUM,
                    Shapes.block(0.16, 0.03, 0.03),
                    Kit.at(0.82, 1.0, z).times(turned));
        }
        return door.model("Hut door");
    }

    private static BufferedImage labelImage() {
        BufferedImage image = new BufferedImage(480, 320, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        g.setColor(new Color(0xF1E7CF));
        g.fillRect(0, 0, 480, 320);
        g.setColor(new Color(0xB23A2E));
        g.fillRect(0, 0, 480, 84);
        g.fillRect(0, 276, 480, 44);
        g.setColor(new Color(0x2B2C2E));
        for (int i = 0; i < 5; i++) {
            g.fillRect(40, 108 + i * 32, i % 2 == 0 ? 400 : 280, 14);
        }
        g.dispose();
        return image;
    }

    /** One that is on the shelves already, one with its own light, camera and ground, and one that is cut off. */
    private void visitors(Path to) throws IOException {
        ModelWriters.write(asset("Fuel drum"), to.resolve("barrel.glb"));
        Kit sign = new Kit().part("Post").cylinder(Paints.DARK_STEEL, 0.04, 2.2, 0, 0, 0);
        sign.part("Arms").block(Paints.STATION_WHITE, 1.1, 0.16, 0.03, 0.45, 1.9, 0);
        sign.block(Paints.STATION_WHITE, 0.9, 0.16, 0.03, -0.35, 1.65, 0);
        Model post = sign.part("Ground plane")
                .add(Paints.STATION_WHITE, Shapes.plate(20, 20), Kit.at(0, 0, 0))
                .model("Signpost");
        Matrix4 above = Matrix4.rotation(0, -50).times(Matrix4.translation(new Vec3(2, 5, 4)));
        Model.Extras extras = new Model.Extras(
                List.of(
                        new Fixture.Light(
                                "Sun", above, Fixture.Light.Kind.DISTANT, new Colour(1, 0.95f, 0.85f), 3, 180),
                        new Fixture.Light("Lamp", above, Fixture.Light.Kind.SPHERE, Colour.WHITE, 900, 180),
                        new Fixture.Camera("View", above, 35, 1.5)),
                0,
                List.of());
        ModelWriters.write(withImages(post.with(extras), to), to.resolve("signpost-with-lights.usda"));
        Path damaged = to.resolve("snow-tractor-cut-off.glb");
        ModelWriters.write(asset("Snow tractor"), damaged);
        byte[] whole = Files.readAllBytes(damaged);
        Files.write(damaged, Arrays.copyOf(whole, whole.length / 3));
    }

    /** Where the surveyors' map has it: 12 km off the origin. */
    private void survey(Path to) {
        Kit beacon = new Kit().part("Beacon");
        beacon.cylinder(Paints.DARK_STEEL, 0.05, 1.6, 0, 0, 0).sphere(Paints.STATION_WHITE, 0.22, 0, 1.75, 0);
        Model here = beacon.model("Survey beacon");
        Matrix4 away = Matrix4.translation(new Vec3(9_600, 41, -7_200));
        Model there = new Model(
                here.name(),
                here.roots().stream()
                        .map(root ->
                                Model.Node.of(root.name(), root.local().times(away), root.parts(), root.children()))
                        .toList(),
                here.extras());
        ModelWriters.write(withImages(there, to), to.resolve("beacon-on-the-map.obj"));
    }

    /** Files that come from elsewhere bring their images along. */
    private static Model withImages(Model model, Path to) {
        return model.withMaterials(material -> material.withTextures(texture -> texture.file()
                .filter(file -> !file.startsWith(to))
                .map(file -> texture.at(copied(file, to.resolve("textures"))))
                .orElse(texture)));
    }

    private static Path copied(Path file, Path folder) {
        try {
            Files.createDirectories(folder);
            Path copy = folder.resolve(file.getFileName());
            if (!Files.exists(copy)) {
                Files.copy(file, copy);
            }
            return copy;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Two plain paints, a wood and a rusted paint that are made of nodes, of which the wood and the rust are graphs. */
    private static String deckPaints() {
        return """
                <?xml version="1.0"?>
                <materialx version="1.39" colorspace="lin_rec709">
                  <standard_surface name="Deck_surface" type="surfaceshader">
                    <input name="base_color" type="color3" value="0.32, 0.36, 0.34"/>
                    <input name="specular_roughness" type="float" value="0.7"/>
                  </standard_surface>
                  <surfacematerial name="Deck grey" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="Deck_surface"/>
                  </surfacematerial>
                  <standard_surface name="Rail_surface" type="surfaceshader">
                    <input name="base_color" type="color3" value="0.85, 0.42, 0.05"/>
                    <input name="specular_roughness" type="float" value="0.35"/>
                  </standard_surface>
                  <surfacematerial name="Rail orange" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="Rail_surface"/>
                  </surfacematerial>
                  %s
                  <standard_surface name="Planks_surface" type="surfaceshader">
                    <input name="base_color" type="color3" nodegraph="Wood" output="colour"/>
                    <input name="specular_roughness" type="float" nodegraph="Wood" output="roughness"/>
                  </standard_surface>
                  <surfacematerial name="Walkway planks" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="Planks_surface"/>
                  </surfacematerial>
                  <nodegraph name="Rust">
                    <texcoord name="st" type="vector2"/>
                    <place2d name="patches" type="vector2">
                      <input name="texcoord" type="vector2" nodename="st"/>
                      <input name="scale" type="vector2" value="0.12, 0.12"/>
                    </place2d>
                    <fractal2d name="noise" type="float">
                      <input name="texcoord" type="vector2" nodename="patches"/>
                      <input name="octaves" type="integer" value="5"/>
                    </fractal2d>
                    <smoothstep name="mask" type="float">
                      <input name="in" type="float" nodename="noise"/>
                      <input name="low" type="float" value="0.05"/>
                      <input name="high" type="float" value="0.2"/>
                    </smoothstep>
                    <output name="rust" type="float" nodename="mask"/>
                  </nodegraph>
                  <mix name="Rusted_colour" type="color3">
                    <input name="bg" type="color3" value="0.55, 0.2, 0.03"/>
                    <input name="fg" type="color3" value="0.13, 0.035, 0.012"/>
                    <input name="mix" type="float" nodegraph="Rust" output="rust"/>
                  </mix>
                  <mix name="Rusted_roughness" type="float">
                    <input name="bg" type="float" value="0.35"/>
                    <input name="fg" type="float" value="0.95"/>
                    <input name="mix" type="float" nodegraph="Rust" output="rust"/>
                  </mix>
                  <standard_surface name="Rusted_surface" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="Rusted_colour"/>
                    <input name="specular_roughness" type="float" nodename="Rusted_roughness"/>
                  </standard_surface>
                  <surfacematerial name="Rail rusted" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="Rusted_surface"/>
                  </surfacematerial>
                </materialx>
                """.formatted(NodeGroups.WOOD);
    }
}
