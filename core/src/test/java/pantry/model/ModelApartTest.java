package pantry.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Model.Node;
import pantry.model.Model.Part;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

@DisplayName("Insides of one of several uses, told apart")
class ModelApartTest {
    private static final Material RED = Material.plain("Red", Colour.ofDisplay(0xB23A2E), 0, 0.5);

    private static Node node(String path, double x, List<Node> children, boolean shared) {
        return new Node(
                path.substring(path.lastIndexOf('/') + 1),
                path,
                Matrix4.translation(new Vec3(x, 0, 0)),
                children.isEmpty() ? List.of(new Part(Shapes.block(1, 1, 1), RED)) : List.of(),
                children,
                shared);
    }

    /** Two trucks that share a cab with a lamp in it, in a yard. */
    private static Model yard() {
        List<Node> lamp = List.of(node("/__Prototype_2/Lamp", 0.5, List.of(), false));
        List<Node> cab = List.of(node("/__Prototype_1/Cab", 1, lamp, true));
        Node first = node("/Yard/First", 0, cab, true);
        Node second = node("/Yard/Second", 10, cab, true);
        return new Model("Yard", List.of(node("/Yard", 0, List.of(first, second), false)), Model.Extras.NONE);
    }

    private static List<String> owners(Model model) {
        List<String> owners = new ArrayList<>();
        model.visit((owner, part, world) ->
                owners.add(owner.path() + " at " + world.translationPart().x()));
        return owners;
    }

    @Test
    @DisplayName("have paths of their own, all the way down, and stand where they stood")
    void apart() {
        assertThat(owners(yard())).containsExactly("/Yard/First at 1.5", "/Yard/Second at 11.5");
        assertThat(owners(yard().withApart("/Yard/Second")))
                .containsExactly("/Yard/First at 1.5", "/Yard/Second/Cab/Lamp at 11.5");
        assertThat(owners(yard().withApart("/Yard/Third")))
                .as("of what is not there, nothing is changed")
                .isEqualTo(owners(yard()));
    }

    @Test
    @DisplayName("what is not worked on fades, and can be seen through to nothing else")
    void faded() {
        RenderScene scene = RenderScene.of(yard().withApart("/Yard/Second"), new RenderCache());
        RenderScene faded = scene.fadedBut("/Yard/Second");
        assertThat(faded).isNotSameAs(scene);
        assertThat(faded.triangles()).isEqualTo(scene.triangles());
        assertThat(faded.boundsBelow("/Yard/First")).isEqualTo(scene.boundsBelow("/Yard/First"));
        assertThat(scene.fadedBut("/Yard/Nothing")).as("nothing is worked on").isSameAs(scene);
    }
}
