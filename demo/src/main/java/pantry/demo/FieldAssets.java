package pantry.demo;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Model;

/** What stands outside at Skua Point: instruments, power, antennas, ways and cables. */
final class FieldAssets {
    private FieldAssets() {}

    static List<Recipe> recipes() {
        return List.of(
                Recipe.of("Instruments/Masts", guyAnchor(), "mast", "anchor"),
                Recipe.of("Instruments/Masts", lightningRod(), "mast", "safety"),
                Recipe.of("Instruments/Wind", sonicAnemometer(), "wind", "sensor"),
                Recipe.of("Instruments/Wind", windSock(), "wind", "marker"),
                Recipe.of("Instruments/Radiation", sunshineRecorder(), "sunlight", "sensor"),
                Recipe.of("Instruments/Radar", ceilometer(), "cloud", "sensor"),
                Recipe.of("Instruments/Snow", snowStake("Snow stake", 2), "snow", "marker")
                        .then(snowStake("Snow stake", 2.5), "half a metre longer: the old ones were buried", true),
                Recipe.of("Instruments/Snow", depthSensor(), "snow", "sensor"),
                Recipe.of("Instruments/Snow", precipitationGauge(), "snow", "sensor"),
                Recipe.of("Power/Wind", turbine(3), "wind", "generator")
                        .then(turbine(5), "five blades, quieter", false),
                Recipe.of("Power/Supply", inverterCabinet(), "electrical"),
                Recipe.of("Power/Supply", jerryCan(), "fuel"),
                Recipe.of("Power/Supply", fuelBladder(), "fuel", "diesel"),
                Recipe.of("Power/Supply", powerPost(), "electrical", "outdoor"),
                Recipe.of("Communication", whipAntenna(), "radio", "antenna"),
                Recipe.of("Communication", dish(1.2), "radio", "antenna"),
                Recipe.of("Communication", dish(2.4), "radio", "antenna", "landmark"),
                Recipe.of("Site/Ways", handrail(), "walkway", "access", "safety"),
                Recipe.of("Site/Ways", reflectorPost(), "marker", "safety"),
                Recipe.of("Site/Cables", cableTray(), "cable"),
                Recipe.of("Site/Cables", cableBridge(), "cable", "access"),
                Recipe.of("Site/Cables", junctionBox(), "cable", "electrical"),
                Recipe.of("Site/Shelters", pyramidTent(), "tent", "shelter"),
                Recipe.of("Site/Shelters", domeHut(), "shelter", "landmark"),
                Recipe.of("Site/Shelters", windWall(), "shelter", "snow"),
                Recipe.of("Vehicles", snowmobile(), "vehicle", "tracked"),
                Recipe.of("Vehicles", tankTrailer(), "vehicle", "fuel"));
    }

    private static Model guyAnchor() {
        Kit kit = new Kit().part("Block").block(Paints.DARK_STEEL, 0.4, 0.18, 0.4, 0, 0, 0);
        kit.part("Eye").rod(Paints.GALVANISED, 0.02, new Vec3(-0.06, 0.18, 0), new Vec3(-0.06, 0.3, 0));
        kit.rod(Paints.GALVANISED, 0.02, new Vec3(0.06, 0.18, 0), new Vec3(0.06, 0.3, 0));
        kit.rod(Paints.GALVANISED, 0.02, new Vec3(-0.06, 0.3, 0), new Vec3(0.06, 0.3, 0));
        return kit.model("Guy block");
    }

    private static Model lightningRod() {
        Kit kit = new Kit().part("Rod").cylinder(Paints.GALVANISED, 0.012, 1.8, 0, 0.06, 0);
        kit.sphere(Paints.ALUMINIUM, 0.025, 0, 1.88, 0);
        kit.part("Clamp").block(Paints.DARK_STEEL, 0.12, 0.08, 0.06, 0, 0, 0);
        return kit.model("Lightning rod");
    }

    private static Model sonicAnemometer() {
        Kit kit = new Kit().part("Stem").cylinder(Paints.ALUMINIUM, 0.02, 0.36, 0, 0, 0);
        kit.part("Head").cylinder(Paints.STATION_WHITE, 0.055, 0.05, 0, 0.34, 0);
        for (int i = 0; i < 3; i++) {
            double a = Math.toRadians(120.0 * i);
            Vec3 out = new Vec3(0.11 * Math.cos(a), 0, 0.11 * Math.sin(a));
            kit.part("Probe " + (i + 1));
            kit.rod(Paints.ALUMINIUM, 0.006, new Vec3(0, 0.37, 0), out.plus(new Vec3(0, 0.44, 0)));
            kit.rod(Paints.ALUMINIUM, 0.006, out.plus(new Vec3(0, 0.44, 0)), out.plus(new Vec3(0, 0.58, 0)));
            kit.sphere(Paints.DARK_STEEL, 0.016, out.x() * 0.8, 0.58, out.z() * 0.8);
        }
        return kit.model("Sonic anemometer");
    }

    private static Model windSock() {
        Kit kit = new Kit().part("Pole").cylinder(Paints.STATION_WHITE, 0.035, 4, 0, 0, 0);
        kit.part("Sock");
        for (int i = 0; i < 5; i++) {
            double r = 0.26 - i * 0.03;
            kit.roll(i % 2 == 0 ? Paints.FLAG : Paints.STATION_WHITE, r, 0.34, 0.25 + i * 0.34, 3.8 - i * 0.05, 0);
        }
        return kit.model("Wind sock");
    }

    private static Model sunshineRecorder() {
        Kit kit = new Kit().part("Base").cylinder(Paints.DARK_STEEL, 0.12, 0.03, 0, 0, 0);
        kit.part("Bowl")
                .lathe(
                        Paints.ALUMINIUM,
                        new double[] {0.04, 0.06, 0.1, 0.115},
                        new double[] {0, 0.01, 0.05, 0.1},
                        0,
                        0.03,
                        0);
        kit.part("Sphere").sphere(Paints.GLASS, 0.05, 0, 0.13, 0);
        return kit.model("Sunshine recorder");
    }

    private static Model ceilometer() {
        Kit kit = new Kit().part("Foot").block(Paints.DARK_STEEL, 0.5, 0.06, 0.5, 0, 0, 0);
        kit.part("Housing").block(Paints.STATION_WHITE, 0.36, 0.95, 0.36, 0, 0.06, 0);
        kit.add(
                Paints.STATION_WHITE,
                Shapes.block(0.42, 0.3, 0.42),
                Matrix4.rotation(0, 14).times(Kit.at(0, 0.96, 0)));
        kit.part("Window")
                .add(
                        Paints.GLASS,
                        Shapes.cylinder(0.13, 0.02, 28),
                        Matrix4.rotation(0, 14).times(Kit.at(0, 1.27, 0.06)));
        return kit.model("Ceilometer");
    }

    private static Model snowStake(String name, double height) {
        Kit kit = new Kit();
        for (int i = 0; i < Math.round(height * 5); i++) {
            kit.part("Mark " + (i + 1))
                    .cylinder(i % 2 == 0 ? Paints.SIGNAL_RED : Paints.STATION_WHITE, 0.022, 0.2, 0, i * 0.2, 0);
        }
        return kit.model(name);
    }

    private static Model depthSensor() {
        Kit kit = new Kit().part("Pole").cylinder(Paints.GALVANISED, 0.03, 2.6, 0, 0, 0);
        kit.part("Arm").rod(Paints.GALVANISED, 0.018, new Vec3(0, 2.5, 0), new Vec3(0.9, 2.5, 0));
        kit.part("Sensor")
                .lathe(
                        Paints.STATION_WHITE,
                        new double[] {0.05, 0.075, 0.06, 0.03},
                        new double[] {0, 0.02, 0.14, 0.2},
                        0.9,
                        2.3,
                        0);
        return kit.model("Snow depth sensor");
    }

    private static Model precipitationGauge() {
        Kit kit = new Kit().part("Stand");
        for (int i = 0; i < 3; i++) {
            double a = Math.toRadians(120.0 * i);
            kit.rod(
                    Paints.GALVANISED,
                    0.02,
                    new Vec3(0.5 * Math.cos(a), 0, 0.5 * Math.sin(a)),
                    new Vec3(0.12 * Math.cos(a), 1, 0.12 * Math.sin(a)));
        }
        kit.part("Vessel")
                .lathe(
                        Paints.STATION_WHITE,
                        new double[] {0.2, 0.2, 0.12, 0.12},
                        new double[] {0, 0.45, 0.62, 0.78},
                        0,
                        1,
                        0);
        kit.part("Wind shield");
        for (int i = 0; i < 24; i++) {
            double a = Math.toRadians(15.0 * i);
            kit.add(
                    Paints.ALUMINIUM,
                    Shapes.block(0.12, 0.4, 0.006),
                    Kit.at(0.62 * Math.cos(a), 1.35, 0.62 * Math.sin(a), 90 - 15.0 * i));
        }
        return kit.model("Precipitation gauge");
    }

    private static Model turbine(int blades) {
        Kit kit = new Kit()
                .part("Tower")
                .lathe(Paints.GALVANISED, new double[] {0.16, 0.09}, new double[] {0, 6}, 0, 0, 0);
        kit.part("Hub").cylinder(Paints.DARK_STEEL, 0.07, 2.3, 0, 5.9, 0);
        kit.part("Blades");
        for (int i = 0; i < blades; i++) {
            double a = 360.0 * i / blades;
            double x = 0.85 * Math.cos(Math.toRadians(a));
            double z = 0.85 * Math.sin(Math.toRadians(a));
            kit.add(Paints.STATION_WHITE, Shapes.block(0.22, 1.9, 0.03), Kit.at(x, 6.1, z, 90 - a));
            kit.rod(Paints.ALUMINIUM, 0.015, new Vec3(0, 6.3, 0), new Vec3(x, 6.3, z));
            kit.rod(Paints.ALUMINIUM, 0.015, new Vec3(0, 7.8, 0), new Vec3(x, 7.8, z));
        }
        return kit.model("Wind turbine");
    }

    private static Model inverterCabinet() {
        Kit kit = new Kit().part("Cabinet").block(Paints.STATION_WHITE, 0.6, 1.2, 0.4, 0, 0.1, 0);
        kit.part("Plinth").block(Paints.DARK_STEEL, 0.56, 0.1, 0.36, 0, 0, 0);
        kit.part("Door").block(Paints.OCHRE, 0.5, 1, 0.02, 0, 0.2, 0.21);
        kit.part("Grille");
        for (int i = 0; i < 6; i++) {
            kit.block(Paints.DARK_STEEL, 0.36, 0.015, 0.01, 0, 0.3 + i * 0.04, 0.222);
        }
        return kit.model("Inverter cabinet");
    }

    private static Model jerryCan() {
        Kit kit = new Kit().part("Can").block(Paints.SIGNAL_RED, 0.34, 0.42, 0.16, 0, 0, 0);
        kit.part("Handles");
        for (int i = -1; i <= 1; i++) {
            kit.rod(Paints.SIGNAL_RED, 0.012, new Vec3(-0.1, 0.47, i * 0.05), new Vec3(0.08, 0.47, i * 0.05));
            kit.rod(Paints.SIGNAL_RED, 0.012, new Vec3(-0.1, 0.42, i * 0.05), new Vec3(-0.1, 0.47, i * 0.05));
            kit.rod(Paints.SIGNAL_RED, 0.012, new Vec3(0.08, 0.42, i * 0.05), new Vec3(0.08, 0.47, i * 0.05));
        }
        kit.part("Cap").cylinder(Paints.DARK_STEEL, 0.03, 0.05, 0.13, 0.42, 0);
        return kit.model("Jerry can");
    }

    private static Model fuelBladder() {
        Kit kit = new Kit().part("Bladder");
        kit.add(
                Paints.RUBBER,
                Shapes.sphere(1, 40, 24),
                Matrix4.scale(new Vec3(2.2, 0.45, 1.5)).times(Kit.at(0, 0.42, 0)));
        kit.part("Tray").block(Paints.OCHRE, 4.8, 0.05, 3.4, 0, 0, 0);
        kit.part("Valve").cylinder(Paints.ALUMINIUM, 0.08, 0.16, 1.2, 0.78, 0);
        return kit.model("Fuel bladder");
    }

    private static Model powerPost() {
        Kit kit = new Kit().part("Post").block(Paints.DARK_STEEL, 0.12, 1.1, 0.12, 0, 0, 0);
        kit.part("Sockets");
        for (int i = 0; i < 3; i++) {
            kit.block(Paints.TEAL, 0.1, 0.12, 0.05, 0, 0.5 + i * 0.18, 0.08);
        }
        kit.part("Lamp").sphere(Paints.GLASS, 0.05, 0, 1.13, 0);
        return kit.model("Power post");
    }

    private static Model whipAntenna() {
        Kit kit = new Kit().part("Base").cylinder(Paints.RUBBER, 0.05, 0.12, 0, 0, 0);
        kit.part("Whip").lathe(Paints.STATION_WHITE, new double[] {0.012, 0.004}, new double[] {0, 3.2}, 0, 0.12, 0);
        return kit.model("Whip antenna");
    }

    private static Model dish(double width) {
        double r = width / 2;
        Kit kit = new Kit().part("Mount").cylinder(Paints.GALVANISED, 0.06, r + 0.5, 0, 0, 0);
        kit.block(Paints.DARK_STEEL, 0.6, 0.05, 0.6, 0, 0, 0);
        Matrix4 look = Matrix4.rotation(0, 50).times(Kit.at(0, r + 0.55, 0));
        kit.part("Reflector")
                .add(
                        Paints.SHELL,
                        Shapes.lathe(
                                new double[] {0.02, r * 0.5, r * 0.8, r, r, r * 0.8, r * 0.5, 0.02},
                                new double[] {0, r * 0.09, r * 0.23, r * 0.36, r * 0.38, r * 0.25, r * 0.11, 0.02},
                                40,
                                true),
                        look);
        kit.part("Feed").add(Paints.DARK_STEEL, Shapes.cylinder(0.03, r * 0.9, 12), look);
        return kit.model("Dish antenna " + (width == 1.2 ? "1.2 m" : "2.4 m"));
    }

    private static Model handrail() {
        Kit kit = new Kit().part("Posts");
        for (int i = 0; i < 3; i++) {
            kit.cylinder(Paints.GALVANISED, 0.022, 1.1, i - 1.0, 0, 0);
        }
        kit.part("Rails").roll(Paints.OCHRE, 0.022, 2.1, 0, 1.1, 0);
        kit.roll(Paints.GALVANISED, 0.016, 2, 0, 0.6, 0);
        return kit.model("Handrail section");
    }

    private static Model reflectorPost() {
        Kit kit = new Kit().part("Post").block(Paints.STATION_WHITE, 0.1, 1.2, 0.04, 0, 0, 0);
        kit.part("Band").block(Paints.DARK_STEEL, 0.104, 0.25, 0.044, 0, 0.9, 0);
        kit.part("Reflector").block(Paints.FLAG, 0.05, 0.16, 0.01, 0, 0.95, 0.026);
        return kit.model("Reflector post");
    }

    private static Model cableTray() {
        Kit kit = new Kit().part("Sides");
        kit.block(Paints.GALVANISED, 2, 0.08, 0.01, 0, 0.3, 0.15)
                .block(Paints.GALVANISED, 2, 0.08, 0.01, 0, 0.3, -0.15);
        kit.part("Rungs");
        for (int i = 0; i < 9; i++) {
            kit.block(Paints.GALVANISED, 0.03, 0.01, 0.3, -0.96 + i * 0.24, 0.3, 0);
        }
        kit.part("Cables");
        for (int i = 0; i < 4; i++) {
            kit.roll(Paints.CABLE, 0.018, 2, 0, 0.33, -0.09 + i * 0.06);
        }
        kit.part("Feet").block(Paints.DARK_STEEL, 0.06, 0.3, 0.34, -0.8, 0, 0);
        kit.block(Paints.DARK_STEEL, 0.06, 0.3, 0.34, 0.8, 0, 0);
        return kit.model("Cable tray");
    }

    private static Model cableBridge() {
        Kit kit = new Kit().part("Ramps");
        for (int side = -1; side <= 1; side += 2) {
            kit.add(
                    Paints.RUBBER,
                    Shapes.block(0.6, 0.04, 0.9),
                    Matrix4.rotation(2, side * 12).times(Kit.at(side * 0.36, 0.06, 0)));
        }
        kit.part("Channel").block(Paints.OCHRE, 0.16, 0.14, 0.9, 0, 0, 0);
        return kit.model("Cable bridge");
    }

    private static Model junctionBox() {
        Kit kit = new Kit().part("Box").block(Paints.STATION_WHITE, 0.3, 0.24, 0.14, 0, 0, 0);
        kit.part("Lid").block(Paints.TEAL, 0.32, 0.26, 0.02, 0, -0.01, 0.08);
        kit.part("Glands");
        for (int i = 0; i < 3; i++) {
            kit.rod(Paints.RUBBER, 0.018, new Vec3(-0.09 + i * 0.09, 0, 0), new Vec3(-0.09 + i * 0.09, -0.05, 0));
        }
        return kit.model("Junction box");
    }

    private static Model pyramidTent() {
        Kit kit = new Kit()
                .part("Canvas")
                .add(
                        Paints.OCHRE,
                        Shapes.lathe(new double[] {1.5, 1.25, 0.05}, new double[] {0, 0.1, 2.3}, 4, false),
                        Matrix4.rotation(1, 45));
        kit.part("Snow valance")
                .add(
                        Paints.SNOW,
                        Shapes.lathe(new double[] {1.95, 1.7, 1.45}, new double[] {0, 0.14, 0.16}, 4, false),
                        Matrix4.rotation(1, 45));
        kit.part("Door")
                .add(
                        Paints.SIGNAL_RED,
                        Shapes.cylinder(0.32, 0.05, 28),
                        Matrix4.rotation(0, 66).times(Kit.at(0, 0.62, 0.82)));
        return kit.model("Pyramid tent");
    }

    private static Model domeHut() {
        Kit kit = new Kit().part("Shell");
        kit.add(
                Paints.SIGNAL_RED,
                Shapes.lathe(
                        new double[] {1.4, 1.62, 1.7, 1.6, 1.25, 0.7, 0.02},
                        new double[] {0, 0.4, 0.9, 1.5, 2.05, 2.4, 2.5},
                        32,
                        true),
                Kit.at(0, 0.15, 0));
        kit.part("Windows");
        for (int i = 0; i < 5; i++) {
            double a = Math.toRadians(60.0 * i + 150);
            kit.sphere(Paints.GLASS, 0.24, 1.5 * Math.cos(a), 1.4, 1.5 * Math.sin(a));
        }
        kit.part("Door").block(Paints.STATION_WHITE, 0.7, 1.6, 0.3, 0, 0.2, 1.5);
        kit.part("Skids").block(Paints.DARK_STEEL, 0.16, 0.15, 2.4, -0.8, 0, 0);
        kit.block(Paints.DARK_STEEL, 0.16, 0.15, 2.4, 0.8, 0, 0);
        return kit.model("Dome hut");
    }

    private static Model windWall() {
        Kit kit = new Kit();
        for (int row = 0; row < 3; row++) {
            kit.part("Course " + (row + 1));
            for (int i = 0; i < 5 - row % 2; i++) {
                double shift = row % 2 * 0.35;
                kit.block(Paints.SNOW, 0.68, 0.38, 0.4, -1.4 + shift + i * 0.7, row * 0.39, 0.02 * row);
            }
        }
        return kit.model("Snow block wall");
    }

    private static Model snowmobile() {
        Kit kit = new Kit().part("Track").block(Paints.RUBBER, 0.42, 0.3, 1.7, 0, 0.06, -0.35);
        kit.part("Body").block(Paints.SIGNAL_RED, 0.62, 0.34, 1, 0, 0.38, 0.45);
        kit.block(Paints.DARK_STEEL, 0.36, 0.2, 1.1, 0, 0.52, -0.5);
        kit.part("Screen")
                .add(
                        Paints.GLASS,
                        Shapes.block(0.5, 0.34, 0.02),
                        Matrix4.rotation(0, -30).times(Kit.at(0, 0.7, 0.6)));
        kit.part("Skis");
        for (int side = -1; side <= 1; side += 2) {
            kit.block(Paints.OCHRE, 0.14, 0.04, 1.1, side * 0.45, 0, 0.85);
            kit.rod(Paints.DARK_STEEL, 0.03, new Vec3(side * 0.45, 0.04, 0.8), new Vec3(side * 0.25, 0.42, 0.6));
        }
        kit.part("Bar").roll(Paints.DARK_STEEL, 0.02, 0.7, 0, 0.95, 0.25);
        kit.rod(Paints.DARK_STEEL, 0.025, new Vec3(0, 0.7, 0.45), new Vec3(0, 0.95, 0.25));
        return kit.model("Snowmobile");
    }

    private static Model tankTrailer() {
        Kit kit = new Kit()
                .part("Tank")
                .add(
                        Paints.ALUMINIUM,
                        Shapes.cylinder(0.75, 3.2, 40),
                        Matrix4.rotation(0, 90).times(Kit.at(0, 1.3, -1.6)));
        kit.part("Frame").block(Paints.DARK_STEEL, 1.3, 0.14, 3.6, 0, 0.42, 0);
        kit.part("Runners");
        for (int side = -1; side <= 1; side += 2) {
            kit.block(Paints.SIGNAL_RED, 0.2, 0.12, 3.8, side * 0.75, 0, 0);
            kit.block(Paints.DARK_STEEL, 0.08, 0.32, 0.2, side * 0.75, 0.12, -1.1);
            kit.block(Paints.DARK_STEEL, 0.08, 0.32, 0.2, side * 0.75, 0.12, 1.1);
        }
        kit.part("Hatch").cylinder(Paints.OCHRE, 0.24, 0.1, 0, 2.04, 0);
        kit.part("Drawbar").rod(Paints.DARK_STEEL, 0.05, new Vec3(0, 0.48, 1.8), new Vec3(0, 0.4, 3));
        return kit.model("Tank trailer");
    }
}
