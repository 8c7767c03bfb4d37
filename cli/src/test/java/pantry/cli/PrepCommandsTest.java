package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/** Inspecting and cleaning on the command line. */
class PrepCommandsTest {
    private static final Mesh BOLT = Shapes.cylinder(0.05, 0.3, 40);

    @TempDir
    private Path folder;

    private Shell shell;
    private String library;
    private String file;

    @BeforeEach
    void open() {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        file = folder.resolve("bolts.usda").toString();
        List<Model.Node> nodes = java.util.stream.IntStream.range(0, 5)
                .mapToObj(i -> Model.Node.of(
                        "Bolt" + "ABCDE".charAt(i),
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(
                                BOLT.transformed(Matrix4.rotation(0, 20 * i)
                                        .times(Matrix4.translation(new Vec3(0.4 * i - 0.8, 0.5, 0)))),
                                Material.PLAIN)),
                        List.of()))
                .toList();
        ModelWriters.write(new Model("Bolts", nodes, Model.Extras.NONE), Path.of(file));
    }

    @AfterEach
    void close() {
        shell.close();
    }

    private Map<?, ?> json(String... arguments) {
        String[] all = java.util.Arrays.copyOf(arguments, arguments.length + 1);
        all[arguments.length] = "--json";
        assertThat(shell.run(all)).as(shell.said()).isZero();
        return Json.read(shell.printed(), "output", Map.class);
    }

    private static List<?> list(Map<?, ?> result, String name) {
        return (List<?>) result.get(name);
    }

    /** One field of each of a list. */
    private static List<Object> each(Map<?, ?> result, String name, String field) {
        return list(result, name).stream()
                .map(one -> (Object) ((Map<?, ?>) one).get(field))
                .toList();
    }

    @Test
    void inspectTellsFindingsAndTidyPutsThemRight() {
        Map<?, ?> inspected = json("inspect", file);
        assertThat(each(inspected, "findings", "rule")).contains("twins", "off-ground");
        Map<?, ?> first = (Map<?, ?>) list(inspected, "findings").getFirst();
        assertThat(first.keySet().stream().map(Object::toString))
                .contains("id", "rule", "severity", "path", "message", "fixable");
        String out = folder.resolve("tidy.usda").toString();
        Map<?, ?> tidied = json("tidy", file, "--all", "--out", out);
        assertThat(each(tidied, "done", "outcome")).containsOnly("fixed");
        assertThat(((Map<?, ?>) tidied.get("after")).get("trianglesStored")).isEqualTo(BOLT.triangleCount());
        assertThat(list(json("inspect", out), "findings")).isEmpty();
        assertThat(shell.run("tidy", file, "--all")).isEqualTo(2);
        assertThat(shell.said()).contains("--out");
        assertThat(shell.run("tidy", file, "--fix", "no-such-thing", "--out", out))
                .isEqualTo(2);
        assertThat(shell.said()).contains("no finding and no rule no-such-thing");
    }

    /** How far up a file reaches, metres. */
    private double top(String of) {
        List<?> max = (List<?>) ((Map<?, ?>) json("facts", of).get("bounds")).get("max");
        return ((Number) max.get(1)).doubleValue();
    }

    @Test
    void theUnitAndAxisOfAFileCanBeToldAndThoseOfAStageCannot() {
        Path post = folder.resolve("post.obj");
        ModelWriters.write(
                new Model(
                        "Post",
                        List.of(Model.Node.of(
                                "Post",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(1, 10, 2), Material.PLAIN)),
                                List.of())),
                        Model.Extras.NONE),
                post);
        String out = folder.resolve("feet.usda").toString();
        json("proxy", post.toString(), "--boxes", "1", "--unit", "ft", "--out", out);
        assertThat(top(out)).isCloseTo(3.048, within(1e-4));
        assertThat(shell.run("inspect", post.toString(), "--unit", "furlong")).isEqualTo(2);
        assertThat(shell.said()).contains("furlong", "mm, cm, m, in or ft");
        assertThat(shell.run("inspect", out, "--up", "Z")).isEqualTo(2);
        assertThat(shell.said()).contains("feet.usda says itself");
    }

    @Test
    void twinsTellsGroupsAndMakesInstances() {
        String out = folder.resolve("shared.usdc").toString();
        Map<?, ?> twins = json("twins", file, "--apply", out);
        Map<?, ?> group = (Map<?, ?>) list(twins, "groups").getFirst();
        assertThat((List<?>) group.get("members")).hasSize(5);
        assertThat(group.get("trianglesEach")).isEqualTo(BOLT.triangleCount());
        assertThat(group.get("mirrored")).isEqualTo(false);
        assertThat((Double) group.get("deviation")).isLessThan(1e-5);
        assertThat(twins.get("trianglesNow")).isEqualTo(5 * BOLT.triangleCount());
        assertThat(twins.get("trianglesAfter")).isEqualTo(BOLT.triangleCount());
        Map<?, ?> again = json("twins", out);
        assertThat(list(again, "groups")).isEmpty();
        assertThat((List<?>) ((Map<?, ?>) list(again, "shared").getFirst()).get("instances"))
                .hasSize(5);
        Map<?, ?> apart = json(
                "twins",
                out,
                "--break-out",
                "BoltB",
                "--out",
                folder.resolve("b.usda").toString());
        assertThat((List<?>) ((Map<?, ?>) list(apart, "shared").getFirst()).get("instances"))
                .hasSize(4);
        assertThat(shell.run("twins", file, "--tolerance=-1")).isEqualTo(2);
    }

    @Test
    void proxyPlanRenameAndPivotChangeWhatTheySay() {
        String out = folder.resolve("out.usda").toString();
        Map<?, ?> proxy = json("proxy", file, "--boxes", "5", "--collision", "hull", "--out", out);
        assertThat((Double) proxy.get("mean")).isGreaterThan(0.8);
        assertThat(((Map<?, ?>) proxy.get("overlap"))).hasSize(6);
        assertThat(proxy.get("collision")).isEqualTo(1);

        String drawing = folder.resolve("plan.svg").toString();
        Map<?, ?> plan = json("plan", file, "--out", drawing, "--wider", "2");
        assertThat((Double) plan.get("width")).isCloseTo(2 * 1.7, within(0.02));
        assertThat(Path.of(drawing)).content().contains("<svg");
        assertThat(shell.run("plan", file, "--out", folder.resolve("plan.pdf").toString()))
                .isEqualTo(1);
        assertThat(shell.said()).contains(".svg");

        Map<?, ?> names = json("rename", file, "BoltA", "BoltB", "--pattern", "lab_<name>_<01>");
        assertThat(each(names, "names", "after")).containsExactly("lab_BoltA_01", "lab_BoltB_02");
        assertThat(shell.run("rename", file, "BoltZ", "--pattern", "x")).isEqualTo(1);
        assertThat(shell.said()).contains("no object called BoltZ");

        Map<?, ?> pivot = json("pivot", file, "BoltC", "--to", "base", "--out", out);
        List<?> held = (List<?>) ((Map<?, ?>) list(pivot, "pivots").getFirst()).get("pivot");
        assertThat((Double) held.get(0)).isCloseTo(0, within(1e-5));
        assertThat((Double) held.get(1)).isGreaterThan(0.4);
        Map<?, ?> stood = json("pivot", file, "--stand", "ground", "--out", out);
        assertThat((Double) ((List<?>) stood.get("min")).get(1)).isCloseTo(0, within(1e-6));
        Map<?, ?> ring = json("pivot", file, "BoltE", "--ring", "4,90", "--out", out);
        assertThat((Double) ((List<?>) ring.get("max")).get(2)).isGreaterThan(0.7);
        assertThat(shell.run("pivot", file, "--to", "base", "--out", out)).isEqualTo(2);
    }

    @Test
    void anAssetIsInspectedByTheHousesRulesAndPublished() throws Exception {
        assertThat(shell.run("new-library", library, "--name", "Yard")).isZero();
        assertThat(shell.run("receive", file, "--library", library, "--shelf", "Parts"))
                .isZero();
        Files.writeString(
                Path.of(library, "prep-rules.json"),
                "{ \"rules\": { \"no-licence\": \"off\", \"no-tag\": \"wrong\" } }");
        Map<?, ?> all = json("inspect", "--library", library);
        assertThat(each(all, "findings", "rule")).contains("no-tag", "twins").doesNotContain("no-licence");
        assertThat(json("inspect", "--library", library)).isEqualTo(all);
        Map<?, ?> tidied = json("tidy", "Parts/Bolts", "--library", library, "--fix", "twins", "--publish");
        assertThat(((Map<?, ?>) tidied.get("saved")).get("version")).isEqualTo("v002");
        assertThat(shell.run("verify", "--library", library)).isZero();
        Files.writeString(Path.of(library, "prep-rules.json"), "{\n \"rules\": { \"no-tag\": \"loud\" } }");
        assertThat(shell.run("inspect", "--library", library)).isEqualTo(1);
        assertThat(shell.said()).contains("prep-rules.json").contains("line 2").doesNotContain("\tat ");
    }
}
