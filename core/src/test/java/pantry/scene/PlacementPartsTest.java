package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Published;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.schema.TransformComponents;
import pantry.workpiece.Workpiece;

/**
 * Parts inside of placements, changed where they stand. World boxes are checked against those worked out by hand: a truck
 * has a chassis of 4 × 1 × 2 m on the ground, and a cab of 2 × 2 × 2 m whose origin is 1 m up and 1 m to the front.
 */
@DisplayName("Overrides that are made in place")
class PlacementPartsTest extends WithWorkshop {
    private static final Material CABIN = Material.plain("Cabin", Colour.ofDisplay(0x3C6491), 0, 0.5);

    private Scene scene;
    private Asset truck;

    @BeforeEach
    void openYard() throws Exception {
        Files.createDirectories(folder.resolve("project"));
        truck = shelve(truck());
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
    }

    private static Model truck() {
        Model.Node lamp = part("Lamp", Matrix4.translation(new Vec3(1, 1, 0)), Shapes.block(0.2, 0.2, 0.2), CABIN);
        Model.Node cab = new Model.Node(
                "Cab",
                "",
                Matrix4.translation(new Vec3(1, 1, 0)),
                List.of(new Model.Part(Shapes.block(2, 2, 2), CABIN)),
                List.of(lamp),
                false);
        Model.Node chassis = part("Chassis", Matrix4.IDENTITY, Shapes.block(4, 1, 2), Workshop.RED);
        return new Model(
                "Truck",
                List.of(Model.Node.of("Truck", Matrix4.IDENTITY, List.of(), List.of(chassis, cab))),
                Model.Extras.NONE);
    }

    private static Model.Node part(String name, Matrix4 place, pantry.mesh.Mesh mesh, Material material) {
        return Model.Node.of(name, place, List.of(new Model.Part(mesh, material)), List.of());
    }

    private Asset shelve(Model model) {
        return workshop.intake()
                .shelve(model, Workshop.slip(model.name(), "Cars"), library, Progress.NONE)
                .asset();
    }

    /** The part of a name inside of something. */
    private SdfPath find(SdfPath in, String name) {
        return scene.parts().below(in).stream()
                .flatMap(path -> path.name().equals(name)
                        ? java.util.stream.Stream.of(path)
                        : Optional.of(find0(path, name)).stream().flatMap(Optional::stream))
                .findFirst()
                .orElseThrow(() -> new AssertionError("no " + name + " in " + in));
    }

    private Optional<SdfPath> find0(SdfPath in, String name) {
        for (SdfPath path : scene.parts().below(in)) {
            Optional<SdfPath> found = path.name().equals(name) ? Optional.of(path) : find0(path, name);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private SdfPath stand(double x) {
        return Workshop.stand(scene, truck, x);
    }

    /** Around what is drawn of a part, metres. */
    private Box3 drawn(SdfPath part) {
        Box3[] box = {Box3.EMPTY};
        scene.model().visit((owner, piece, world) -> {
            if (owner.path().equals(part.toString()) || owner.path().startsWith(part + "/")) {
                box[0] = box[0].union(piece.mesh().bounds().transformed(world));
            }
        });
        return box[0];
    }

    private long triangles() {
        return scene.weight(scene.model()).trianglesDrawn();
    }

    private List<String> sentences(SdfPath placement) {
        return scene.overrides().told(placement).stream()
                .map(OverrideSentence::sentence)
                .toList();
    }

    @Test
    @DisplayName("a part is moved in the world, whatever it is inside of; the others of its asset stay")
    void move() {
        SdfPath first = stand(0);
        SdfPath second = stand(10);
        scene.arranging().move(Map.of(first, new TransformComponents(new Vec3(0, 0, 0), new Vec3(0, 90, 0), Vec3.ONE)));
        SdfPath cab = find(first, "Cab");
        assertThat(scene.parts().sharing(first)).isEqualTo(1);
        Vec3 before = scene.parts()
                .parentSpace(cab)
                .orElseThrow()
                .point(scene.parts()
                        .at(cab)
                        .orElseThrow()
                        .placing()
                        .orElseThrow()
                        .move());
        // Turned by 90° about y, the asset's x is the world's -z.
        assertThat(before.minus(new Vec3(0, 1, -1)).length()).isLessThan(1e-9);

        scene.parts().adjust(List.of(cab), new Vec3(0, 0.8, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(sentences(first)).containsExactly("Cab moved up by 0.8 m");
        assertThat(scene.parts().sharing(first)).isZero();
        assertThat(drawn(cab).min().y()).isCloseTo(1.8, within(1e-6));
        assertThat(drawn(second).max().y()).isCloseTo(3, within(1e-6));

        scene.parts().adjust(List.of(cab), new Vec3(2, 0, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(sentences(first)).containsExactly("Cab moved 2 m along x, 0.8 m along y");
        assertThat(drawn(cab).centre().x()).isCloseTo(2, within(1e-6));
        scene.undo();
        scene.undo();
        assertThat(sentences(first)).isEmpty();
        assertThat(scene.parts().sharing(first)).isEqualTo(1);
    }

    @Test
    @DisplayName("it is turned and sized about its own origin")
    void turnAndSize() {
        SdfPath first = stand(0);
        SdfPath cab = find(first, "Cab");
        scene.parts().adjust(List.of(cab), Vec3.ZERO, new Vec3(0, 30, 0), new Vec3(1.5, 1.5, 1.5));
        assertThat(sentences(first)).containsExactly("Cab turned 30° about y, sized × 1.5");
        Box3 box = drawn(cab);
        assertThat(box.min().y()).as("its base stays").isCloseTo(1, within(1e-6));
        assertThat(box.size().y()).isCloseTo(3, within(1e-6));
        // A square of 3 m turned by 30° is 3 (cos 30° + sin 30°) m across.
        assertThat(box.size().x()).isCloseTo(3 * (Math.sqrt(3) / 2 + 0.5), within(1e-5));
        assertThatThrownBy(() -> scene.parts().adjust(List.of(cab), Vec3.ZERO, Vec3.ZERO, new Vec3(1, 0, 1)))
                .hasMessageContaining("no size");
    }

    @Test
    @DisplayName("parts are hidden and shown, and what is dropped is as the asset has it; sharing comes back")
    void hideAndDrop() {
        SdfPath first = stand(0);
        SdfPath cab = find(first, "Cab");
        SdfPath lamp = find(first, "Lamp");
        long before = triangles();
        scene.parts().show(List.of(cab, lamp), false);
        assertThat(sentences(first)).containsExactly("Cab is hidden", "Lamp is hidden");
        assertThat(triangles()).isEqualTo(before - 24);
        scene.parts().drop(List.of(lamp));
        assertThat(sentences(first)).containsExactly("Cab is hidden");
        assertThat(scene.stage().prim(first).orElseThrow().isInstance()).isFalse();
        scene.parts().drop(List.of(cab));
        assertThat(sentences(first)).isEmpty();
        assertThat(scene.spec(first).orElseThrow().children()).isEmpty();
        assertThat(scene.stage().prim(first).orElseThrow().isInstance()).isTrue();
        assertThat(triangles()).isEqualTo(before);
    }

    @Test
    @DisplayName("what is said of a part is copied to other placements of the asset; those without it are told")
    void copy() {
        SdfPath first = stand(0);
        SdfPath second = stand(10);
        SdfPath third = stand(20);
        SdfPath block = Workshop.stand(scene, workshop.block("Block", "Parts", 1), 30);
        SdfPath cab = find(first, "Cab");
        scene.parts().adjust(List.of(cab), new Vec3(0, 0.8, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(scene.parts().copyTo(cab, List.of(first, second, third, block)))
                .containsExactly(block);
        for (SdfPath placement : List.of(first, second, third)) {
            assertThat(sentences(placement)).containsExactly("Cab moved up by 0.8 m");
            assertThat(drawn(find(placement, "Cab")).min().y()).isCloseTo(1.8, within(1e-6));
        }
        scene.undo();
        assertThat(sentences(second)).isEmpty();
        assertThatThrownBy(() -> scene.parts().copyTo(find(second, "Cab"), List.of(first)))
                .hasMessageContaining("nothing is said");
    }

    @Test
    @DisplayName("a part of an instance within a placement is changed there alone")
    void nested() {
        Asset pair = workshop.prefab("Pair", "Cars", truck);
        SdfPath first = Workshop.stand(scene, pair, 0);
        SdfPath second = Workshop.stand(scene, pair, 20);
        SdfPath cab = find(first, "Cab");
        assertThat(cab.depth()).isGreaterThan(first.depth() + 2);
        scene.parts().adjust(List.of(cab), new Vec3(0, 1, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(sentences(first)).containsExactly("Cab moved up by 1 m");
        assertThat(drawn(cab).min().y()).isCloseTo(2, within(1e-6));
        assertThat(drawn(second).max().y()).isCloseTo(3, within(1e-6));
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.overrides().told(first)).hasSize(1);
        scene.parts().drop(List.of(cab));
        assertThat(scene.spec(first).orElseThrow().children())
                .as("nothing is left of it")
                .isEmpty();
    }

    @Test
    @DisplayName("a part is given a material of the library, once for all that have it")
    void coat() {
        Material wood = Material.plain("Wood", Colour.ofDisplay(0x8A5A2B), 0, 0.9);
        Asset material = workshop.intake()
                .shelve(
                        new Model(
                                "Wood",
                                List.of(part("Sample", Matrix4.IDENTITY, Shapes.block(1, 1, 1), wood)),
                                Model.Extras.NONE),
                        Slip.plain("Wood", AssetKind.MATERIAL, "Materials", 1, Axis.Y),
                        library,
                        Progress.NONE)
                .asset();
        SdfPath first = stand(0);
        SdfPath second = stand(10);
        SdfPath cab = find(first, "Cab");
        long before = triangles();
        // What else a part applies stays, and does not keep the binding from being applied too.
        scene.own().editor().changeAll("a shape to touch by", edits -> {
            edits.setField(first, "instanceable", new Value.Bool(false));
            edits.override(cab);
            edits.change(cab, prim -> prim.setApiSchemas("PhysicsCollisionAPI"));
        });
        scene.parts().coat(cab, material);
        assertThat(scene.stage().prim(cab).orElseThrow().apiSchemas())
                .contains("PhysicsCollisionAPI", "MaterialBindingAPI");
        scene.undo();
        scene.undo();
        scene.parts().coat(cab, material);
        scene.parts().coat(find(second, "Chassis"), material);
        assertThat(sentences(first)).containsExactly("Cab has the material Wood");
        assertThat(scene.childNames(scene.root().child(Materials.SCOPE))).hasSize(1);
        assertThat(triangles()).as("only the material comes along").isEqualTo(before);
        boolean[] seen = {false};
        scene.model()
                .visit((owner, part, world) -> seen[0] |= part.material().name().equals("Wood"));
        assertThat(seen[0]).isTrue();
        scene.undo();
        scene.undo();
        assertThat(scene.stage().prim(scene.root().child(Materials.SCOPE))).isEmpty();
    }

    @Test
    @DisplayName("a material of placements is given another colour; one with an image is refused")
    void colour() {
        SdfPath first = stand(0);
        SdfPath second = stand(10);
        assertThat(scene.parts().materials(first))
                .extracting(PlacementParts.Coloured::name)
                .containsExactlyInAnyOrder("Cabin", "Red");
        scene.parts().colour(List.of(first, second), "Cabin", Colour.ofDisplay(0x228844));
        for (SdfPath placement : List.of(first, second)) {
            assertThat(sentences(placement)).containsExactly("Cabin is coloured 228844");
        }
        Colour now = scene.parts().materials(first).stream()
                .filter(each -> each.name().equals("Cabin"))
                .findFirst()
                .orElseThrow()
                .colour();
        assertThat(Colour.display(now.g())).isEqualTo(0x88);
        assertThatThrownBy(() -> scene.parts().colour(List.of(first), "Glass", Colour.WHITE))
                .hasMessageContaining("no material Glass");
    }

    @Test
    @DisplayName("what is said of a part is written back to the asset, which shares its insides as before")
    void writeBack() {
        SdfPath first = stand(0);
        SdfPath second = stand(10);
        SdfPath cab = find(first, "Cab");
        scene.parts().adjust(List.of(cab), new Vec3(0, 0.5, 0), Vec3.ZERO, Vec3.ONE);
        Published published = scene.overrides()
                .writeBack(
                        first,
                        "a higher cab",
                        new Overrides.Publisher(
                                (Path file) -> Optional.of(library),
                                new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()),
                                new RenderCache()),
                        Progress.NONE);
        assertThat(published.version()).isEqualTo("v002");
        assertThat(sentences(first)).isEmpty();
        assertThat(scene.parts().sharing(first)).isEqualTo(1);
        assertThat(drawn(second).max().y()).isCloseTo(3.5, within(1e-6));
    }

    @Test
    @DisplayName("what is no part is refused, and nothing is changed")
    void refused() {
        SdfPath first = stand(0);
        for (SdfPath wrong : List.of(first, scene.root(), first.child("Nothing"))) {
            assertThatThrownBy(() -> scene.parts().show(List.of(wrong), false)).hasMessageContaining("no part");
            assertThat(scene.parts().at(wrong)).isEmpty();
        }
        assertThatThrownBy(() -> scene.parts().choose(find(first, "Cab"), "paint", "blue"))
                .hasMessageContaining("no variant blue");
        assertThat(sentences(first)).isEmpty();
        assertThat(scene.stage().prim(first).orElseThrow().isInstance()).isTrue();
    }
}
