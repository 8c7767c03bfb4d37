package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** The command {@code place}, by what stands in the saved scene. */
class LayOutCommandTest extends WithYardScene {
    @Test
    void thingsStandOnWhatIsBelowAreMixedFollowEdgesAndAreLaidOutOtherwise() {
        json(
                "reference",
                scene,
                "Parts/Panel",
                "--library",
                library,
                "--name",
                "Hill",
                "--at",
                "9,0,0",
                "--scale",
                "8,2,8");
        json("reference", scene, "Parts/Post", "--library", library, "--name", "Post", "--at", "0.5,0,0");
        json("reference", scene, "Parts/Panel", "--library", library, "--name", "Crate", "--at", "0.5,0,5");
        String row =
                path(json("place", scene, "Post", "--grid", "6,1,1", "--step", "3,0,0", "--standing", "--name", "Row"));
        Scene open = opened();
        List<String> uses = open.layouts().kept(SdfPath.of(row)).orElseThrow().uses();
        List<Double> heights = uses.stream()
                .map(name -> open.world(SdfPath.of(row).child(name))
                        .orElseThrow()
                        .translationPart()
                        .y())
                .toList();
        assertThat(heights.subList(0, 2)).containsOnly(0.0);
        double top = open.arranging().box(SdfPath.of("/yard/Hill")).max().y();
        assertThat(heights.subList(2, 5)).allSatisfy(y -> assertThat(y).isCloseTo(top, within(1e-5)));

        open.arranging()
                .move(Map.of(
                        SdfPath.of(row).child(uses.get(1)), TransformComponents.ORIGIN.withMove(new Vec3(3, 0, 9))));
        open.save();
        assertThat(shell.run("place", scene, row, "--again", "--grid", "8,1,1", "--step", "2,0,0"))
                .isZero();
        assertThat(shell.said()).contains("1 moved by hand stay");
        Scene again = opened();
        assertThat(again.layouts().kept(SdfPath.of(row)).orElseThrow().standing())
                .as("they stand on things as before")
                .isTrue();
        assertThat(again.spec(SdfPath.of(row)).orElseThrow().childNames()).hasSize(8);

        String mixed = path(json(
                "place", scene, "Crate", "--with", "Row=3", "--grid", "20,1,1", "--step", "0,0,4", "--name", "Mixed"));
        long crates = opened().spec(SdfPath.of(mixed)).orElseThrow().childNames().stream()
                .filter(name -> name.startsWith("Crate"))
                .count();
        assertThat(crates).isBetween(4L, 6L);

        json("reference", scene, "Parts/Post", "--library", library, "--name", "Flag", "--at", "0,0,-9");
        String edge = path(
                json("place", scene, "Flag", "--edge", "Hill", "--near", "9,2,4.2", "--count", "3", "--name", "Flags"));
        Scene flags = opened();
        flags.layouts().kept(SdfPath.of(edge)).orElseThrow().uses().forEach(name -> assertThat(
                        flags.world(SdfPath.of(edge).child(name))
                                .orElseThrow()
                                .translationPart()
                                .z())
                .isCloseTo(4, within(1e-5)));
        assertThat(shell.run("place", scene, "Flag", "--again", "--grid", "2,1,1"))
                .isEqualTo(1);
        assertThat(shell.said()).contains("no layout that could be changed");
        assertThat(shell.run("place", scene, "Crate", "--with", "Post=0", "--grid", "9,1,1"))
                .isEqualTo(1);
        assertThat(shell.said()).contains("shares are numbers above 0");
    }
}
