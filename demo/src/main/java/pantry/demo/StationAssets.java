package pantry.demo;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/** The models of Skua Point. */
final class StationAssets {
    private final Paints paints;

    StationAssets(Paints paints) {
        this.paints = paints;
    }

    List<Recipe> recipes() {
        return List.of(
                recipe("Instruments/Masts", latticeMast("Lattice mast 9 m", 9), "mast", "guyed"),
                recipe("Instruments/Masts", latticeMast("Lattice mast 6 m", 6), "mast", "guyed"),
                recipe("Instruments/Masts", tripodMast(), "mast", "portable"),
                recipe("Instruments/Wind", cupAnemometer(1), "wind", "sensor")
                        .then(cupAnemometer(1.12), "larger cups: starts at half a metre a second", true)
                        .then(cupAnemometer(1.25), "tried at the north mast; too heavy", false),
                recipe("Instruments/Wind", windVane(), "wind", "sensor"),
                recipe("Instruments/Radiation", radiationScreen(), "temperature", "sensor"),
                recipe("Instruments/Radiation", pyranometer(), "sunlight", "sensor"),
                recipe("Instruments/Radar", radome(), "radar", "landmark"),
                recipe("Power/Solar", solarPanel(), "solar", "panel"),
                recipe("Power/Solar", solarRow(), "solar", "array"),
                recipe("Power/Supply", batteryBox(), "battery"),
                recipe("Power/Supply", generatorSkid(), "generator", "diesel"),
                recipe("Power/Supply", fuelDrum(), "fuel", "diesel"),
                recipe("Living", livingModule(), "building", "landmark"),
                recipe("Living", corridorLink(), "building"),
                recipe("Living", entryStairs(), "building", "access"),
                recipe("Vehicles", snowTractor(), "vehicle", "tracked"),
                recipe("Vehicles", cargoSledge(), "vehicle", "sledge"),
                recipe("Site/Ways", walkwaySection(), "walkway", "access"),
                recipe("Site/Ways", flagPost(), "flag", "marker"),
                recipe("Site/Cables", cableDrum(), "cable"));
    }

    private static Recipe recipe(String shelf, Model model, String... tags) {
        return Recipe.of(shelf, model, tags);
    }

    private static Vec3 corner(double radius, int i, double y) {
        double angle = Math.toRadians(90 + 120 * i);
        return new Vec3(radius * Math.cos(angle), y, radius * Math.sin(angle));
    }

    private static Model latticeMast(String name, double height) {
        Kit kit = new Kit().part("Foundation");
        kit.block(Paints.DARK_STEEL, 0.9, 0.08, 0.9, 0, 0, 0);
        double radius = 0.2;
        for (int i = 0; i < 3; i++) {
            for (int section = 0; section < height; section++) {
                kit.part("Section " + (section + 1));
                Material paint = section % 2 == 0 ? Paints.SIGNAL_RED : Paints.STATION_WHITE;
                double from = section == 0 ? 0.08 : section;
                double to = Math.min(height, section + 1.0);
                kit.rod(paint, 0.022, corner(radius, i, from), corner(radius, i, to));
                kit.rod(paint, 0.01, corner(radius, i, to), corner(radius, (i + 1) % 3, to));
                double middle = (from + to) / 2;
                kit.rod(paint, 0.009, corner(radius, i, from), corner(radius, (i + 1) % 3, middle));
                kit.rod(paint, 0.009, corner(radius, (i + 1) % 3, middle), corner(radius, i, to));
            }
            kit.part("Guys");
            Vec3 anchor = corner(height * 0.42, i, 0);
            kit.rod(Paints.GALVANISED, 0.006, corner(radius, i, height * 0.9), anchor);
            kit.rod(Paints.GALVANISED, 0.006, corner(radius, i, height * 0.5), anchor);
            kit.block(Paints.DARK_STEEL, 0.3, 0.12, 0.3, anchor.x(), 0, anchor.z());
        }
        kit.part("Boom");
        kit.rod(Paints.ALUMINIUM, 0.02, new Vec3(-0.9, height - 0.3, 0), new Vec3(0.9, height - 0.3, 0));
        kit.rod(Paints.ALUMINIUM, 0.02, new Vec3(0, height - 0.5, 0), new Vec3(0, height + 0.5, 0));
        return kit.model(name);
    }

    private static Model tripodMast() {
        Kit kit = new Kit().part("Legs");
        for (int i = 0; i < 3; i++) {
            kit.rod(Paints.ALUMINIUM, 0.025, corner(0.05, i, 1.7), corner(0.9, i, 0.03));
            kit.cylinder(
                    Paints.RUBBER,
                    0.07,
                    0.04,
                    corner(0.9, i, 0).x(),
                    0,
                    corner(0.9, i, 0).z());
            kit.rod(Paints.ALUMINIUM, 0.012, corner(0.55, i, 0.7), new Vec3(0, 0.9, 0));
        }
        kit.part("Pole").cylinder(Paints.ALUMINIUM, 0.03, 2.5, 0, 0.5, 0);
        kit.part("Logger").block(Paints.STATION_WHITE, 0.32, 0.42, 0.18, 0, 1.2, 0.14);
        kit.block(Paints.DARK_STEEL, 0.28, 0.02, 0.02, 0, 1.4, 0.24);
        return kit.model("Tripod mast 3 m");
    }

    /** @param cups how large the cups are, of the first make */
    private static Model cupAnemometer(double cups) {
        Kit kit = new Kit().part("Stem");
        kit.cylinder(Paints.DARK_STEEL, 0.018, 0.24, 0, 0, 0);
        kit.lathe(
                Paints.ALUMINIUM,
                new double[] {0.03, 0.034, 0.03, 0.014},
                new double[] {0, 0.02, 0.06, 0.08},
                0,
                0.2,
                0);
        kit.part("Cups");
        for (int i = 0; i < 3; i++) {
            double angle = 120.0 * i;
            double x = Math.cos(Math.toRadians(angle));
            double z = Math.sin(Math.toRadians(angle));
            kit.rod(Paints.ALUMINIUM, 0.005, new Vec3(0, 0.29, 0), new Vec3(0.11 * x, 0.29, 0.11 * z));
            Matrix4 cup = Matrix4.scale(new Vec3(cups, cups, cups))
                    .times(Matrix4.rotation(0, 90))
                    .times(Matrix4.rotation(1, -angle))
                    .times(Kit.at(0.13 * x, 0.29, 0.13 * z));
            kit.add(
                    Paints.RUBBER,
                    Shapes.lathe(
                            new double[] {0, 0.024, 0.036, 0.04, 0.036, 0.02, 0},
                            new double[] {-0.036, -0.03, -0.015, 0, -0.004, -0.022, -0.028},
                            28,
                            true),
                    cup);
        }
        return new Rigging()
                .joint("Cups", "", 0, 0.29, 0)
                .motion("Spin", 1.2, 12, (joint, share) -> Matrix4.rotation(1, -360 * share))
                .on(kit.model("Cup anemometer"));
    }

    private static Model windVane() {
        Kit kit = new Kit().part("Stem").cylinder(Paints.DARK_STEEL, 0.02, 0.3, 0, 0, 0);
        kit.part("Vane");
        kit.rod(Paints.ALUMINIUM, 0.009, new Vec3(-0.28, 0.33, 0), new Vec3(0.22, 0.33, 0));
        kit.sphere(Paints.SIGNAL_RED, 0.03, -0.28, 0.33, 0);
        kit.sphere(Paints.DARK_STEEL, 0.028, 0, 0.32, 0);
        kit.block(Paints.SIGNAL_RED, 0.2, 0.2, 0.006, 0.26, 0.23, 0);
        return new Rigging()
                .joint("Vane", "", 0, 0.33, 0)
                .motion(
                        "Gusts",
                        6,
                        36,
                        (joint, share) -> Matrix4.rotation(
                                1, 35 * Math.sin(2 * Math.PI * share) + 12 * Math.sin(6 * Math.PI * share)))
                .on(kit.model("Wind vane"));
    }

    private static Model radiationScreen() {
        Kit kit = new Kit().part("Bracket");
        kit.cylinder(Paints.GALVANISED, 0.012, 0.34, 0, 0, 0);
        kit.part("Plates");
        for (int plate = 0; plate < 11; plate++) {
            kit.lathe(
                    Paints.STATION_WHITE,
                    new double[] {0.105, 0.11, 0.075, 0.07, 0.1},
                    new double[] {0, 0.004, 0.02, 0.016, 0.0},
                    0,
                    0.04 + plate * 0.024,
                    0);
        }
        kit.lathe(
                Paints.STATION_WHITE,
                new double[] {0.11, 0.1, 0.05, 0},
                new double[] {0, 0.012, 0.03, 0.034},
                0,
                0.304,
                0);
        return kit.model("Radiation screen");
    }

    private static Model pyranometer() {
        Kit kit = new Kit().part("Base");
        kit.lathe(
                Paints.STATION_WHITE,
                new double[] {0.075, 0.08, 0.08, 0.06, 0.04},
                new double[] {0, 0.005, 0.04, 0.055, 0.06},
                0,
                0,
                0);
        kit.part("Shade");
        kit.lathe(
                Paints.STATION_WHITE,
                new double[] {0.06, 0.11, 0.112, 0.06},
                new double[] {0.05, 0.044, 0.05, 0.058},
                0,
                0,
                0);
        kit.part("Dome");
        kit.add(
                Paints.GLASS,
                Shapes.lathe(
                        new double[] {0.032, 0.0295, 0.0226, 0.0122, 0},
                        new double[] {0, 0.0122, 0.0226, 0.0295, 0.032},
                        32,
                        true),
                Kit.at(0, 0.06, 0));
        return kit.model("Pyranometer");
    }

    private static Model radome() {
        Kit kit = new Kit().part("Plinth");
        for (int i = 0; i < 4; i++) {
            double x = i % 2 == 0 ? -2 : 2;
            double z = i < 2 ? -2 : 2;
            kit.rod(Paints.GALVANISED, 0.11, new Vec3(x, 0, z), new Vec3(x * 0.8, 3.2, z * 0.8));
            kit.rod(Paints.GALVANISED, 0.05, new Vec3(x, 0.3, z), new Vec3(-x * 0.86, 2.6, z * 0.86));
            kit.block(Paints.DARK_STEEL, 0.7, 0.15, 0.7, x, 0, z);
        }
        kit.cylinder(Paints.STATION_WHITE, 2.6, 0.3, 0, 3.2, 0);
        kit.part("Rail");
        for (int i = 0; i < 16; i++) {
            double a = Math.toRadians(i * 22.5);
            double b = Math.toRadians((i + 1) * 22.5);
            Vec3 post = new Vec3(2.5 * Math.cos(a), 3.5, 2.5 * Math.sin(a));
            Vec3 next = new Vec3(2.5 * Math.cos(b), 3.5, 2.5 * Math.sin(b));
            kit.rod(Paints.OCHRE, 0.02, post, post.plus(new Vec3(0, 0.95, 0)));
            kit.rod(Paints.OCHRE, 0.018, post.plus(new Vec3(0, 0.95, 0)), next.plus(new Vec3(0, 0.95, 0)));
        }
        kit.part("Shell");
        double[] radii = new double[19];
        double[] heights = new double[19];
        for (int i = 0; i < 19; i++) {
            double angle = Math.toRadians(-50 + i * 140.0 / 18);
            radii[i] = i == 18 ? 0 : 2.1 * Math.cos(angle);
            heights[i] = 2.1 * Math.sin(angle);
        }
        kit.add(Paints.SHELL, Shapes.lathe(radii, heights, 48, true), Kit.at(0, 5.1, 0));
        for (int i = 0; i < 8; i++) {
            for (int k = 0; k < 12; k++) {
                Vec3 a = onShell(i * 45, -45 + k * 11);
                Vec3 b = onShell(i * 45, -45 + (k + 1) * 11);
                kit.rod(Paints.STATION_WHITE, 0.018, a, b);
            }
        }
        return kit.model("Radome on plinth");
    }

    private static Vec3 onShell(double around, double up) {
        double a = Math.toRadians(around);
        double b = Math.toRadians(up);
        return new Vec3(2.1 * Math.cos(b) * Math.cos(a), 5.1 + 2.1 * Math.sin(b), 2.1 * Math.cos(b) * Math.sin(a));
    }

    private void panel(Kit kit, double x, double y, double z) {
        Matrix4 tilt = Matrix4.rotation(0, 55).times(Kit.at(x, y, z));
        kit.add(Paints.ALUMINIUM, Shapes.box(new Vec3(-0.5, -0.02, -0.8), new Vec3(0.5, 0.02, 0.8)), tilt);
        kit.add(paints.cells(), Shapes.plate(0.94, 1.54), Kit.at(0, 0.0215, 0).times(tilt));
    }

    private Model solarPanel() {
        Kit kit = new Kit().part("Panel");
        panel(kit, 0, 1.05, 0);
        kit.part("Stand");
        for (double x : new double[] {-0.4, 0.4}) {
            kit.rod(Paints.GALVANISED, 0.022, new Vec3(x, 0, -0.35), new Vec3(x, 1.62, -0.42));
            kit.rod(Paints.GALVANISED, 0.022, new Vec3(x, 0, 0.45), new Vec3(x, 0.5, 0.4));
            kit.rod(Paints.GALVANISED, 0.022, new Vec3(x, 0.02, -0.6), new Vec3(x, 0.02, 0.7));
        }
        return kit.model("Solar panel");
    }

    private Model solarRow() {
        Kit kit = new Kit();
        for (int i = 0; i < 8; i++) {
            kit.part("Panel " + (i + 1));
            panel(kit, i * 1.06 - 3.71, 1.05, 0);
        }
        kit.part("Stand");
        for (int i = 0; i < 5; i++) {
            double x = -4 + i * 2.0;
            kit.rod(Paints.GALVANISED, 0.03, new Vec3(x, 0, -0.35), new Vec3(x, 1.62, -0.42));
            kit.rod(Paints.GALVANISED, 0.03, new Vec3(x, 0, 0.45), new Vec3(x, 0.5, 0.4));
        }
        kit.rod(Paints.GALVANISED, 0.03, new Vec3(-4.2, 1.55, -0.41), new Vec3(4.2, 1.55, -0.41));
        kit.rod(Paints.GALVANISED, 0.03, new Vec3(-4.2, 0.48, 0.38), new Vec3(4.2, 0.48, 0.38));
        return kit.model("Solar array row");
    }

    private static Model batteryBox() {
        Kit kit = new Kit().part("Box");
        kit.block(Paints.TEAL, 1.1, 0.7, 0.6, 0, 0.1, 0);
        kit.block(Paints.DARK_STEEL, 1.16, 0.05, 0.66, 0, 0.8, 0);
        for (double x : new double[] {-0.4, 0.4}) {
            kit.block(Paints.DARK_STEEL, 0.1, 0.1, 0.6, x, 0, 0);
            kit.block(Paints.ALUMINIUM, 0.14, 0.03, 0.03, x, 0.55, 0.32);
        }
        kit.part("Vents");
        for (int i = 0; i < 5; i++) {
            kit.block(Paints.DARK_STEEL, 0.3, 0.015, 0.02, 0, 0.3 + i * 0.04, 0.305);
        }
        return kit.model("Battery box");
    }

    private static Model generatorSkid() {
        Kit kit = new Kit().part("Skid");
        for (double z : new double[] {-0.5, 0.5}) {
            kit.block(Paints.DARK_STEEL, 2.8, 0.16, 0.14, 0, 0, z);
        }
        kit.block(Paints.DARK_STEEL, 2.4, 0.06, 1.2, 0, 0.16, 0);
        kit.part("Housing").block(Paints.OCHRE, 2.0, 1.15, 1.05, 0, 0.22, 0);
        kit.block(Paints.DARK_STEEL, 2.04, 0.06, 1.09, 0, 1.37, 0);
        kit.part("Grille");
        for (int i = 0; i < 9; i++) {
            kit.block(Paints.DARK_STEEL, 0.03, 0.05, 0.8, 1.0, 0.45 + i * 0.085, 0);
        }
        kit.part("Exhaust").cylinder(Paints.GALVANISED, 0.06, 0.55, -0.7, 1.4, 0.2);
        kit.part("Door").block(Paints.STATION_WHITE, 0.7, 0.8, 0.02, -0.4, 0.4, 0.53);
        return kit.model("Generator skid");
    }

    private static Model fuelDrum() {
        Kit kit = new Kit().part("Drum");
        kit.add(
                Paints.TEAL,
                Shapes.lathe(
                        new double[] {0.285, 0.285, 0.297, 0.297, 0.285, 0.285, 0.297, 0.297, 0.285, 0.285},
                        new double[] {0, 0.28, 0.29, 0.31, 0.32, 0.56, 0.57, 0.59, 0.6, 0.88},
                        36,
                        false),
                Matrix4.IDENTITY);
        kit.add(Paints.DARK_STEEL, Shapes.torus(0.282, 0.014, 36, 10), Kit.at(0, 0.875, 0));
        kit.add(Paints.DARK_STEEL, Shapes.torus(0.282, 0.014, 36, 10), Kit.at(0, 0.014, 0));
        kit.part("Bungs").cylinder(Paints.GALVANISED, 0.035, 0.02, 0.18, 0.88, 0);
        kit.cylinder(Paints.GALVANISED, 0.022, 0.02, -0.17, 0.88, 0.05);
        return kit.model("Fuel drum");
    }

    private static Model livingModule() {
        Kit kit = new Kit().part("Legs");
        for (double x : new double[] {-4, 0, 4}) {
            for (double z : new double[] {-1.6, 1.6}) {
                kit.cylinder(Paints.GALVANISED, 0.12, 1.6, x, 0, z);
                kit.block(Paints.DARK_STEEL, 0.7, 0.1, 0.7, x, 0, z);
            }
        }
        kit.part("Hull");
        kit.add(Paints.SIGNAL_RED, Shapes.box(new Vec3(-5, 1.5, -1.9), new Vec3(5, 4.0, 1.9)), Matrix4.IDENTITY);
        kit.add(
                Paints.STATION_WHITE,
                Shapes.box(new Vec3(-5.06, 4.0, -1.96), new Vec3(5.06, 4.25, 1.96)),
                Matrix4.IDENTITY);
        kit.add(
                Paints.STATION_WHITE,
                Shapes.box(new Vec3(-5.06, 1.35, -1.96), new Vec3(5.06, 1.55, 1.96)),
                Matrix4.IDENTITY);
        kit.part("Windows");
        for (int i = 0; i < 5; i++) {
            double x = -3.6 + i * 1.8;
            for (double z : new double[] {-1.9, 1.9}) {
                kit.block(Paints.STATION_WHITE, 1.14, 1.04, 0.08, x, 2.28, z);
                kit.block(Paints.GLASS, 1.0, 0.9, 0.12, x, 2.35, z);
            }
        }
        kit.part("Door").block(Paints.DARK_STEEL, 0.1, 2.05, 0.95, 5.02, 1.6, 0);
        kit.part("Roof gear").cylinder(Paints.GALVANISED, 0.09, 0.9, -4, 4.25, -1.2);
        kit.block(Paints.GALVANISED, 1.2, 0.45, 0.8, 2.5, 4.25, 0.6);
        return kit.model("Living module");
    }

    private static Model corridorLink() {
        Kit kit = new Kit().part("Hull");
        kit.add(Paints.STATION_WHITE, Shapes.box(new Vec3(-2, 1.6, -0.8), new Vec3(2, 3.9, 0.8)), Matrix4.IDENTITY);
        for (int i = 0; i < 9; i++) {
            kit.block(Paints.DARK_STEEL, 0.06, 2.38, 1.7, -1.9 + i * 0.475, 1.56, 0);
        }
        kit.part("Legs");
        for (double x : new double[] {-1.4, 1.4}) {
            kit.cylinder(Paints.GALVANISED, 0.09, 1.6, x, 0, 0);
            kit.block(Paints.DARK_STEEL, 0.5, 0.08, 0.5, x, 0, 0);
        }
        return kit.model("Corridor link");
    }

    private Model entryStairs() {
        Kit kit = new Kit().part("Steps");
        for (int i = 0; i < 8; i++) {
            kit.block(paints.grating(), 0.28, 0.04, 1.1, -1.0 + i * 0.27, 0.18 + i * 0.19, 0);
        }
        kit.block(paints.grating(), 1.2, 0.05, 1.2, 1.55, 1.55, 0);
        kit.part("Stringers");
        for (double z : new double[] {-0.58, 0.58}) {
            kit.rod(Paints.GALVANISED, 0.04, new Vec3(-1.15, 0.05, z), new Vec3(1.0, 1.55, z));
            kit.rod(Paints.OCHRE, 0.022, new Vec3(-1.1, 1.05, z), new Vec3(1.0, 2.55, z));
            kit.rod(Paints.OCHRE, 0.022, new Vec3(1.0, 2.55, z), new Vec3(2.1, 2.55, z));
            for (int i = 0; i < 4; i++) {
                double x = -1.1 + i * 0.7;
                kit.rod(Paints.OCHRE, 0.018, new Vec3(x, 0.08 + i * 0.5, z), new Vec3(x, 1.05 + i * 0.5, z));
            }
            kit.rod(Paints.GALVANISED, 0.04, new Vec3(2.05, 0, z), new Vec3(2.05, 2.55, z));
        }
        return kit.model("Entry stairs");
    }

    private static Model snowTractor() {
        Kit kit = new Kit().part("Tracks");
        for (double z : new double[] {-1.0, 1.0}) {
            kit.block(Paints.RUBBER, 3.0, 0.12, 0.6, 0, 0.02, z);
            kit.block(Paints.RUBBER, 3.2, 0.1, 0.6, 0, 0.72, z);
            for (int i = 0; i < 4; i++) {
                double x = -1.2 + i * 0.8;
                kit.rod(Paints.DARK_STEEL, 0.3, new Vec3(x, 0.42, z - 0.24), new Vec3(x, 0.42, z + 0.24));
            }
            for (double x : new double[] {-1.62, 1.62}) {
                kit.rod(Paints.RUBBER, 0.4, new Vec3(x, 0.42, z - 0.3), new Vec3(x, 0.42, z + 0.3));
            }
        }
        kit.part("Chassis").block(Paints.DARK_STEEL, 3.4, 0.3, 1.4, 0, 0.5, 0);
        kit.part("Cab");
        kit.block(Paints.OCHRE, 1.5, 0.7, 1.9, 0.55, 0.86, 0);
        kit.block(Paints.GLASS, 1.36, 0.75, 1.76, 0.55, 1.56, 0);
        kit.block(Paints.OCHRE, 1.56, 0.1, 1.96, 0.55, 2.28, 0);
        kit.block(Paints.OCHRE, 0.7, 0.5, 1.5, 1.6, 0.86, 0);
        for (double z : new double[] {-0.55, 0.55}) {
            kit.rod(Paints.STATION_WHITE, 0.11, new Vec3(1.95, 1.15, z), new Vec3(1.99, 1.15, z));
        }
        kit.part("Deck").block(Paints.GALVANISED, 1.7, 0.1, 1.9, -1.1, 0.9, 0);
        for (double z : new double[] {-0.9, 0.9}) {
            kit.block(Paints.DARK_STEEL, 1.7, 0.35, 0.05, -1.1, 1.0, z);
        }
        kit.part("Beacon").cylinder(Paints.SIGNAL_RED, 0.07, 0.14, 0.4, 2.38, 0.5);
        return kit.model("Snow tractor");
    }

    private Model cargoSledge() {
        Kit kit = new Kit().part("Runners");
        for (double z : new double[] {-0.7, 0.7}) {
            kit.block(Paints.DARK_STEEL, 3.2, 0.1, 0.14, -0.1, 0, z);
            kit.rod(Paints.DARK_STEEL, 0.06, new Vec3(1.5, 0.06, z), new Vec3(1.95, 0.42, z));
            for (int i = 0; i < 4; i++) {
                kit.block(Paints.DARK_STEEL, 0.1, 0.32, 0.1, -1.4 + i * 0.9, 0.1, z);
            }
        }
        kit.part("Deck");
        for (int i = 0; i < 9; i++) {
            kit.block(paints.wood(), 0.32, 0.05, 1.7, -1.5 + i * 0.36, 0.42, 0);
        }
        kit.part("Tow bar").rod(Paints.GALVANISED, 0.04, new Vec3(1.9, 0.4, -0.6), new Vec3(2.9, 0.35, 0));
        kit.rod(Paints.GALVANISED, 0.04, new Vec3(1.9, 0.4, 0.6), new Vec3(2.9, 0.35, 0));
        kit.part("Crate").block(paints.wood(), 1.1, 0.8, 1.1, -0.7, 0.47, 0);
        return kit.model("Cargo sledge");
    }

    private Model walkwaySection() {
        Kit kit = new Kit().part("Deck");
        kit.block(paints.grating(), 2.0, 0.05, 1.0, 0, 0.5, 0);
        kit.part("Frame");
        for (double z : new double[] {-0.5, 0.5}) {
            kit.block(Paints.GALVANISED, 2.0, 0.1, 0.05, 0, 0.45, z);
            for (double x : new double[] {-0.95, 0.95}) {
                kit.rod(Paints.GALVANISED, 0.025, new Vec3(x, 0, z), new Vec3(x, 1.55, z));
            }
            kit.rod(Paints.OCHRE, 0.022, new Vec3(-1, 1.55, z), new Vec3(1, 1.55, z));
            kit.rod(Paints.OCHRE, 0.016, new Vec3(-1, 1.05, z), new Vec3(1, 1.05, z));
        }
        return kit.model("Walkway section");
    }

    private static Model flagPost() {
        Kit kit = new Kit().part("Pole").cylinder(Paints.BAMBOO, 0.014, 2.1, 0, 0, 0);
        kit.part("Flag").block(Paints.FLAG, 0.42, 0.3, 0.008, 0.22, 1.76, 0);
        kit.part("Mound")
                .lathe(Paints.SNOW, new double[] {0.28, 0.22, 0.1, 0}, new double[] {0, 0.05, 0.1, 0.12}, 0, 0, 0);
        return kit.model("Flag line post");
    }

    private Model cableDrum() {
        Kit kit = new Kit().part("Flanges");
        kit.roll(paints.wood(), 0.6, 0.06, -0.37, 0.6, 0);
        kit.roll(paints.wood(), 0.6, 0.06, 0.37, 0.6, 0);
        kit.part("Core").roll(paints.wood(), 0.26, 0.68, 0, 0.6, 0);
        kit.part("Cable");
        for (int i = 0; i < 12; i++) {
            Matrix4 lying = Matrix4.rotation(2, 90).times(Kit.at(-0.31 + i * 0.056, 0.6, 0));
            kit.add(Paints.CABLE, Shapes.torus(0.42, 0.028, 40, 10), lying);
        }
        kit.part("Axle").roll(Paints.GALVANISED, 0.035, 0.86, 0, 0.6, 0);
        return kit.model("Cable drum");
    }

    /** The arrival that lost its texture: a crate of which the label's image is not there. */
    Model crate(Texture missing) {
        Material label = paints.wood().with(Material.Slot.BASE, missing);
        Kit kit = new Kit().part("Crate").block(paints.wood(), 1.2, 0.9, 0.8, 0, 0, 0);
        kit.part("Label")
                .add(label, Shapes.plate(0.6, 0.4), Matrix4.rotation(0, 90).times(Kit.at(0, 0.45, 0.402)));
        return kit.model("Supply crate");
    }

    /** A tank, for the arrival whose Z axis points up. */
    static Model tank() {
        Kit kit = new Kit().part("Tank");
        kit.lathe(
                Paints.STATION_WHITE,
                new double[] {0.9, 0.95, 0.95, 0.8, 0.4, 0},
                new double[] {0.3, 0.4, 1.9, 2.15, 2.28, 2.3},
                0,
                0,
                0);
        kit.part("Legs");
        for (int i = 0; i < 3; i++) {
            Vec3 foot = corner(0.75, i, 0);
            kit.cylinder(Paints.GALVANISED, 0.06, 0.5, foot.x(), 0, foot.z());
        }
        return kit.model("Water tank");
    }
}
