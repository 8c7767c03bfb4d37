package pantry.demo;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/** What stands inside at Skua Point, and in its stores: furniture, laboratory, boxes and tools. */
final class CampAssets {
    private final Paints paints;

    CampAssets(Paints paints) {
        this.paints = paints;
    }

    List<Recipe> recipes() {
        return List.of(
                Recipe.of("Living/Rooms", bunk(), "indoor", "furniture"),
                Recipe.of("Living/Rooms", stove(), "indoor", "heating"),
                Recipe.of("Living/Rooms", table(1.8), "indoor", "furniture")
                        .then(table(2.2), "seats eight", true)
                        .then(table(2.6), "seats ten; too long for the small mess", false),
                Recipe.of("Living/Rooms", chair(), "indoor", "furniture"),
                Recipe.of("Living/Rooms", locker(), "indoor", "furniture"),
                Recipe.of("Living/Rooms", bookshelf(), "indoor", "furniture"),
                Recipe.of("Laboratory", workbench(), "indoor", "bench"),
                Recipe.of("Laboratory", microscope(), "indoor", "optical"),
                Recipe.of("Laboratory", freezer(), "indoor", "ice core"),
                Recipe.of("Laboratory", coreBox(), "ice core", "box"),
                Recipe.of("Laboratory", balance(), "indoor", "sensor"),
                Recipe.of("Communication", radioRack(), "radio", "indoor"),
                Recipe.of("Communication", fieldTelephone(), "radio"),
                Recipe.of("Site/Stores", crate(), "box", "stores"),
                Recipe.of("Site/Stores", pallet(), "stores"),
                Recipe.of("Site/Stores", gasBottle(), "stores", "fuel"),
                Recipe.of("Site/Stores", toolbox(), "tool", "stores"),
                Recipe.of("Site/Stores", shovel(), "tool", "snow"),
                Recipe.of("Site/Stores", barrelRack(), "stores", "fuel"));
    }

    /** A model that also comes in other paints, as looks. */
    static Model repainted(Model model, Material paint, Map<String, Material> looks) {
        return new Model(model.name(), repainted(model.roots(), paint, looks), model.extras());
    }

    private static List<Model.Node> repainted(List<Model.Node> nodes, Material paint, Map<String, Material> looks) {
        List<Model.Node> result = new ArrayList<>();
        for (Model.Node node : nodes) {
            List<Model.Part> parts = node.parts().stream()
                    .map(part -> part.material().equals(paint)
                            ? new Model.Part(part.mesh(), paint, new LinkedHashMap<>(looks))
                            : part)
                    .toList();
            result.add(Model.Node.of(node.name(), node.local(), parts, repainted(node.children(), paint, looks)));
        }
        return result;
    }

    private static Kit legs(Kit kit, double width, double depth, double height) {
        kit.part("Legs");
        for (int i = 0; i < 4; i++) {
            double x = (i % 2 == 0 ? -1 : 1) * (width / 2 - 0.04);
            double z = (i < 2 ? -1 : 1) * (depth / 2 - 0.04);
            kit.block(Paints.DARK_STEEL, 0.05, height, 0.05, x, 0, z);
        }
        return kit;
    }

    private Model bunk() {
        Kit kit = legs(new Kit(), 2, 0.9, 1.75);
        for (int i = 0; i < 2; i++) {
            kit.part(i == 0 ? "Lower bed" : "Upper bed");
            kit.block(paints.wood(), 1.96, 0.05, 0.86, 0, 0.35 + i * 0.95, 0);
            kit.block(Paints.TEAL, 1.9, 0.14, 0.8, 0, 0.4 + i * 0.95, 0);
            kit.block(Paints.STATION_WHITE, 0.34, 0.1, 0.6, -0.72, 0.54 + i * 0.95, 0);
        }
        kit.part("Ladder");
        for (int i = 0; i < 5; i++) {
            kit.block(paints.wood(), 0.4, 0.03, 0.04, 0.7, 0.3 + i * 0.26, 0.48);
        }
        return kit.model("Bunk");
    }

    private static Model stove() {
        Kit kit = new Kit().part("Body").block(Paints.DARK_STEEL, 0.6, 0.62, 0.5, 0, 0.16, 0);
        kit.part("Door").block(Paints.GLASS, 0.36, 0.26, 0.02, 0, 0.3, 0.26);
        kit.part("Top").block(Paints.DARK_STEEL, 0.66, 0.04, 0.56, 0, 0.78, 0);
        kit.part("Pipe").cylinder(Paints.GALVANISED, 0.07, 1.3, 0, 0.82, -0.12);
        return legs(kit, 0.56, 0.46, 0.16).model("Stove");
    }

    private Model table(double width) {
        Kit kit = legs(new Kit(), width, 0.8, 0.7);
        kit.part("Top").block(paints.wood(), width, 0.04, 0.8, 0, 0.7, 0);
        return repainted(
                kit.model("Mess table"),
                paints.wood(),
                Map.of("White top", Paints.STATION_WHITE, "Teal top", Paints.TEAL));
    }

    private static Model chair() {
        Kit kit = legs(new Kit(), 0.44, 0.44, 0.44);
        kit.part("Seat").block(Paints.TEAL, 0.44, 0.04, 0.44, 0, 0.44, 0);
        kit.part("Back").block(Paints.TEAL, 0.44, 0.26, 0.03, 0, 0.7, -0.2);
        kit.rod(Paints.DARK_STEEL, 0.016, new Vec3(-0.18, 0.46, -0.2), new Vec3(-0.18, 0.9, -0.22));
        kit.rod(Paints.DARK_STEEL, 0.016, new Vec3(0.18, 0.46, -0.2), new Vec3(0.18, 0.9, -0.22));
        return repainted(
                kit.model("Chair"), Paints.TEAL, Map.of("Ochre", Paints.OCHRE, "Signal red", Paints.SIGNAL_RED));
    }

    private static Model locker() {
        Kit kit = new Kit().part("Body").block(Paints.STATION_WHITE, 0.8, 1.8, 0.5, 0, 0.05, 0);
        kit.part("Doors").block(Paints.TEAL, 0.38, 1.7, 0.02, -0.2, 0.1, 0.26);
        kit.block(Paints.TEAL, 0.38, 1.7, 0.02, 0.2, 0.1, 0.26);
        kit.part("Handles").cylinder(Paints.ALUMINIUM, 0.012, 0.16, -0.05, 0.95, 0.29);
        kit.cylinder(Paints.ALUMINIUM, 0.012, 0.16, 0.05, 0.95, 0.29);
        return repainted(kit.model("Locker"), Paints.TEAL, Map.of("Ochre", Paints.OCHRE));
    }

    private Model bookshelf() {
        Kit kit = new Kit().part("Sides").block(paints.wood(), 0.03, 1.9, 0.3, -0.5, 0, 0);
        kit.block(paints.wood(), 0.03, 1.9, 0.3, 0.5, 0, 0);
        Material[] spines = {Paints.SIGNAL_RED, Paints.TEAL, Paints.OCHRE, Paints.STATION_WHITE, Paints.CABLE};
        for (int shelf = 0; shelf < 5; shelf++) {
            kit.part("Shelf " + (shelf + 1)).block(paints.wood(), 0.98, 0.03, 0.3, 0, shelf * 0.46, 0);
            for (int i = 0; i < 9 && shelf < 4; i++) {
                double height = 0.22 + 0.03 * ((i * 7 + shelf * 3) % 4);
                kit.block(
                        spines[(i * 3 + shelf) % spines.length],
                        0.06,
                        height,
                        0.2,
                        -0.42 + i * 0.085,
                        0.03 + shelf * 0.46,
                        0);
            }
        }
        return kit.model("Bookshelf");
    }

    private Model workbench() {
        Kit kit = legs(new Kit(), 2, 0.7, 0.86);
        kit.part("Top").block(paints.wood(), 2, 0.05, 0.7, 0, 0.86, 0);
        kit.part("Drawers").block(Paints.OCHRE, 0.5, 0.6, 0.6, -0.7, 0.22, 0);
        kit.part("Back panel").block(Paints.STATION_WHITE, 2, 0.6, 0.02, 0, 0.91, -0.34);
        kit.part("Vice").block(Paints.DARK_STEEL, 0.16, 0.14, 0.24, 0.75, 0.91, 0.24);
        return kit.model("Workbench");
    }

    private static Model microscope() {
        Kit kit = new Kit().part("Foot").block(Paints.STATION_WHITE, 0.2, 0.03, 0.24, 0, 0, 0);
        kit.part("Arm").block(Paints.STATION_WHITE, 0.06, 0.26, 0.06, 0, 0.03, -0.08);
        kit.part("Stage").block(Paints.DARK_STEEL, 0.14, 0.015, 0.14, 0, 0.13, 0.02);
        kit.part("Tube")
                .add(
                        Paints.STATION_WHITE,
                        Shapes.cylinder(0.03, 0.2, 20),
                        Matrix4.rotation(0, -25).times(Kit.at(0, 0.24, -0.02)));
        kit.part("Objective").cylinder(Paints.ALUMINIUM, 0.016, 0.07, 0, 0.17, 0.02);
        return kit.model("Microscope");
    }

    private static Model freezer() {
        Kit kit = new Kit().part("Chest").block(Paints.STATION_WHITE, 1.4, 0.82, 0.7, 0, 0.06, 0);
        kit.part("Lid").block(Paints.STATION_WHITE, 1.42, 0.08, 0.72, 0, 0.88, 0);
        kit.part("Panel").block(Paints.TEAL, 0.3, 0.12, 0.01, 0.45, 0.14, 0.355);
        return legs(kit, 1.3, 0.6, 0.06).model("Sample freezer");
    }

    private static Model coreBox() {
        Kit kit = new Kit().part("Box").block(Paints.SHELL, 1.1, 0.3, 0.34, 0, 0, 0);
        kit.part("Lid").block(Paints.SHELL, 1.12, 0.06, 0.36, 0, 0.3, 0);
        kit.part("Straps").block(Paints.SIGNAL_RED, 0.05, 0.37, 0.37, -0.35, 0, 0);
        kit.block(Paints.SIGNAL_RED, 0.05, 0.37, 0.37, 0.35, 0, 0);
        return kit.model("Ice core box");
    }

    private static Model balance() {
        Kit kit = new Kit().part("Body").block(Paints.STATION_WHITE, 0.22, 0.07, 0.32, 0, 0, 0);
        kit.part("Pan").cylinder(Paints.ALUMINIUM, 0.06, 0.012, 0, 0.08, -0.04);
        kit.part("Shield").block(Paints.GLASS, 0.2, 0.22, 0.004, 0, 0.07, -0.15);
        kit.block(Paints.GLASS, 0.004, 0.22, 0.2, -0.1, 0.07, -0.05);
        kit.block(Paints.GLASS, 0.004, 0.22, 0.2, 0.1, 0.07, -0.05);
        return kit.model("Balance");
    }

    private static Model radioRack() {
        Kit kit = new Kit().part("Frame").block(Paints.DARK_STEEL, 0.56, 1.7, 0.5, 0, 0, 0);
        Material[] fronts = {Paints.STATION_WHITE, Paints.CABLE, Paints.TEAL, Paints.STATION_WHITE, Paints.OCHRE};
        for (int i = 0; i < 5; i++) {
            kit.part("Unit " + (i + 1)).block(fronts[i], 0.5, 0.22, 0.02, 0, 0.2 + i * 0.28, 0.26);
            kit.roll(Paints.ALUMINIUM, 0.02, 0.04, 0.16, 0.31 + i * 0.28, 0.28);
        }
        return kit.model("Radio rack");
    }

    private static Model fieldTelephone() {
        Kit kit = new Kit().part("Case").block(Paints.CABLE, 0.26, 0.16, 0.14, 0, 0, 0);
        kit.part("Receiver").roll(Paints.RUBBER, 0.022, 0.2, 0, 0.2, 0);
        kit.sphere(Paints.RUBBER, 0.035, -0.1, 0.19, 0).sphere(Paints.RUBBER, 0.035, 0.1, 0.19, 0);
        kit.part("Crank").rod(Paints.ALUMINIUM, 0.008, new Vec3(0.13, 0.08, 0), new Vec3(0.19, 0.08, 0));
        return kit.model("Field telephone");
    }

    private Model crate() {
        Kit kit = new Kit().part("Boards");
        for (int i = 0; i < 5; i++) {
            kit.block(paints.wood(), 1, 0.12, 0.02, 0, 0.02 + i * 0.135, 0.36);
            kit.block(paints.wood(), 1, 0.12, 0.02, 0, 0.02 + i * 0.135, -0.36);
            kit.block(paints.wood(), 0.02, 0.12, 0.7, 0.49, 0.02 + i * 0.135, 0);
            kit.block(paints.wood(), 0.02, 0.12, 0.7, -0.49, 0.02 + i * 0.135, 0);
        }
        kit.part("Lid").block(paints.wood(), 1.02, 0.03, 0.76, 0, 0.69, 0);
        kit.part("Corners");
        for (int i = 0; i < 4; i++) {
            kit.block(Paints.DARK_STEEL, 0.06, 0.7, 0.06, i % 2 == 0 ? -0.48 : 0.48, 0, i < 2 ? -0.35 : 0.35);
        }
        return kit.model("Store crate");
    }

    private Model pallet() {
        Kit kit = new Kit().part("Deck");
        for (int i = 0; i < 7; i++) {
            kit.block(paints.wood(), 1.2, 0.022, 0.1, 0, 0.122, -0.35 + i * 0.1167);
        }
        kit.part("Bearers");
        for (int i = -1; i <= 1; i++) {
            kit.block(paints.wood(), 0.1, 0.1, 0.8, i * 0.53, 0.022, 0);
            kit.block(paints.wood(), 0.1, 0.022, 0.8, i * 0.53, 0, 0);
        }
        return kit.model("Pallet");
    }

    private static Model gasBottle() {
        Kit kit = new Kit()
                .part("Bottle")
                .lathe(
                        Paints.TEAL,
                        new double[] {0.1, 0.115, 0.115, 0.09, 0.035, 0.03},
                        new double[] {0, 0.03, 1.15, 1.3, 1.38, 1.44},
                        0,
                        0,
                        0);
        kit.part("Valve").cylinder(Paints.OCHRE, 0.02, 0.06, 0, 1.44, 0);
        return repainted(
                kit.model("Gas bottle"),
                Paints.TEAL,
                Map.of("Oxygen", Paints.STATION_WHITE, "Propane", Paints.SIGNAL_RED));
    }

    private static Model toolbox() {
        Kit kit = new Kit().part("Box").block(Paints.SIGNAL_RED, 0.5, 0.22, 0.24, 0, 0, 0);
        kit.part("Lid").block(Paints.DARK_STEEL, 0.51, 0.04, 0.25, 0, 0.22, 0);
        kit.part("Handle").roll(Paints.DARK_STEEL, 0.012, 0.2, 0, 0.31, 0);
        kit.rod(Paints.DARK_STEEL, 0.01, new Vec3(-0.1, 0.26, 0), new Vec3(-0.1, 0.31, 0));
        kit.rod(Paints.DARK_STEEL, 0.01, new Vec3(0.1, 0.26, 0), new Vec3(0.1, 0.31, 0));
        return kit.model("Toolbox");
    }

    private static Model shovel() {
        Kit kit = new Kit().part("Blade").block(Paints.ALUMINIUM, 0.3, 0.36, 0.02, 0, 0, 0);
        kit.part("Shaft").cylinder(Paints.BAMBOO, 0.016, 0.9, 0, 0.34, 0);
        kit.part("Grip").roll(Paints.RUBBER, 0.018, 0.14, 0, 1.25, 0);
        return kit.model("Snow shovel");
    }

    private static Model barrelRack() {
        Kit kit = legs(new Kit(), 2, 0.9, 1.4);
        for (int i = 0; i < 2; i++) {
            kit.part("Beams " + (i + 1)).block(Paints.OCHRE, 2, 0.08, 0.06, 0, 0.25 + i * 0.7, 0.38);
            kit.block(Paints.OCHRE, 2, 0.08, 0.06, 0, 0.25 + i * 0.7, -0.38);
        }
        return kit.model("Barrel rack");
    }
}
