package pantry.prep.fix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Weight;
import pantry.model.WorldPoints;
import pantry.prep.Made;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Fix;
import pantry.prep.inspect.RuleSet;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

@DisplayName("Tidying")
class TidyTest {
    @TempDir
    Path folder;

    /** Three bolts in a nest of groups, one hidden, one mirrored, under a root that is turned; beside it, a light. */
    private Workpiece flawed() {
        Made made = Made.mast(folder);
        PrimSpec nest = made.root.define("Xform", "Object1").define("Xform", "Inner");
        Mesh bolt = Shapes.cylinder(0.05, 0.2, 40);
        for (int i = 0; i < 4; i++) {
            Mesh baked =
                    bolt.transformed(Matrix4.rotation(0, 20 * i).times(Matrix4.translation(new Vec3(0.3 * i, 0.5, 0))));
            PrimSpec prim = Made.mesh(
                    nest, "Bolt_00" + i, baked, i == 3 ? Matrix4.scale(new Vec3(-1, 1, 1)) : Matrix4.IDENTITY);
            if (i == 2) {
                prim.set("token", "visibility", new Value.Token("invisible"));
            }
        }
        made.root.define("SphereLight", "Lamp");
        made.layer.root().define("Xform", "Rubbish");
        return made.open();
    }

    @Test
    @DisplayName("puts right all that can be, moving no vertex, and can be undone step by step")
    void everything() {
        Workpiece piece = flawed();
        double[] drawn = WorldPoints.vertices(piece.model());
        Tidy.Result result = Tidy.all(piece, RuleSet.USUAL, Optional.empty(), finding -> true, Progress.NONE);
        assertThat(result.done()).allMatch(done -> done.outcome() != Tidy.Outcome.REFUSED);
        assertThat(Made.inspect(piece)).isEmpty();
        assertThat(WorldPoints.vertices(piece.model())).hasSameSizeAs(drawn);
        assertThat(result.after().trianglesStored()).isLessThan(result.before().trianglesStored());
        int steps = 0;
        while (piece.editor().undoName().isPresent()) {
            piece.editor().undo();
            steps++;
        }
        assertThat(steps).isGreaterThan(4);
        assertThat(piece.weight()).isEqualTo(result.before());
    }

    @Test
    @DisplayName("names what lies deep in groups that say nothing by the nearest name that does, in one round")
    void deepNames() {
        Made made = Made.mast(folder);
        PrimSpec group = made.root;
        for (int depth = 1; depth <= 6; depth++) {
            group = group.define("Xform", "Object_" + depth);
            Made.mesh(group, "body_" + depth, Shapes.block(0.1 * depth, 0.1, 0.3), Matrix4.IDENTITY);
        }
        Workpiece piece = made.open();
        Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), of(piece, "empty-name"), Progress.NONE);
        assertThat(rules(piece)).doesNotContain("empty-name");
        assertThat(piece.editor().stage().prims().map(prim -> prim.path().toString()))
                .noneMatch(path -> path.contains("Object") || path.contains("body"));
    }

    @Test
    @DisplayName("says beforehand what it will weigh, and the working copy stays as it is")
    void preview() {
        Workpiece piece = flawed();
        Weight now = piece.weight();
        Tidy.Choice twins = of(piece, "twins");
        Weight then = Tidy.preview(piece, RuleSet.USUAL, Optional.empty(), twins, Progress.NONE);
        assertThat(piece.weight()).isEqualTo(now);
        assertThat(piece.editor().undoName()).isEmpty();
        assertThat(then.trianglesStored()).isLessThan(now.trianglesStored());
        assertThat(Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), twins, Progress.NONE)
                        .after())
                .isEqualTo(then);
    }

    /** All findings of some rules. */
    private static Tidy.Choice of(Workpiece piece, String... rules) {
        List<Finding> found = Made.inspect(piece);
        return new Tidy.Choice(
                found,
                found.stream()
                        .filter(finding ->
                                List.of(rules).contains(finding.rule().id()))
                        .toList());
    }

    @Test
    @DisplayName("goes on with what comes to light of the rules that were chosen whole, and with no other")
    void onwards() {
        Workpiece some = flawed();
        assertThat(rules(some)).contains("light", "twins");
        Tidy.apply(some, RuleSet.USUAL, Optional.empty(), of(some, "light"), Progress.NONE);
        assertThat(rules(some)).doesNotContain("light").contains("twins");

        Workpiece all = flawed();
        List<Finding> found = Made.inspect(all);
        Tidy.apply(all, RuleSet.USUAL, Optional.empty(), new Tidy.Choice(found, found), Progress.NONE);
        assertThat(rules(all)).isEmpty();

        Workpiece one = flawed();
        List<Finding> there = Made.inspect(one);
        Finding chosen = there.stream().filter(Finding::fixable).findFirst().orElseThrow();
        Tidy.Result result = Tidy.apply(
                one, RuleSet.USUAL, Optional.empty(), new Tidy.Choice(there, List.of(chosen)), Progress.NONE);
        assertThat(result.done()).allMatch(done -> done.finding().rule().equals(chosen.rule()));
    }

    private static List<String> rules(Workpiece piece) {
        return Made.inspect(piece).stream()
                .map(finding -> finding.rule().id())
                .distinct()
                .toList();
    }

    @Test
    @DisplayName("takes back a fix that does not keep what it promised")
    void brokenPromise() {
        Workpiece piece = Made.mast(folder).open();
        SdfPath tube = Made.ROOT.child("Tube");
        Fix lie = Fix.of("Move it", tidying -> tidying.setLocal(tube, Matrix4.translation(new Vec3(0.01, 0, 0))));
        Check check = Check.of(new Subject(piece, Progress.NONE));
        Tidying.change(piece, "lie", lie.work());
        assertThat(check.fault(lie.keeps(), 0, piece.model()))
                .hasValueSatisfying(fault -> assertThat(fault).contains("vertices would move"));
        assertThat(check.fault(lie.keeps(), 0.02, piece.model())).isEmpty();
        assertThat(check.fault(Fix.Keeps.THE_SURFACE, 0.005, piece.model())).isPresent();
        assertThat(check.fault(Fix.Keeps.THE_SURFACE, 0.02, piece.model())).isEmpty();
        assertThat(check.fault(Fix.Keeps.THE_REST, 0, piece.model())).isPresent();
        piece.editor().undo();
        assertThat(check.fault(lie.keeps(), 0, piece.model())).isEmpty();
    }

    @Test
    @DisplayName("is cancelled at any moment, and what was done until then can be undone")
    void cancelled() {
        Weight before = flawed().weight();
        for (int after = 1; after < 200; after += 13) {
            Workpiece piece = flawed();
            int[] left = {after};
            Progress impatient = new Progress() {
                @Override
                public void report(String what, double fraction) {}

                @Override
                public boolean cancelled() {
                    return left[0]-- <= 0;
                }
            };
            try {
                Tidy.all(piece, RuleSet.USUAL, Optional.empty(), finding -> true, impatient);
            } catch (CancellationException e) {
                assertThat(left[0]).isNegative();
            }
            while (piece.editor().undoName().isPresent()) {
                piece.editor().undo();
            }
            assertThat(piece.weight()).isEqualTo(before);
        }
    }

    @Test
    @DisplayName("goes by the severity, limits and scope of the house's rules")
    void houseRules() throws Exception {
        Path file = folder.resolve("prep-rules.json");
        Files.writeString(file, """
                {
                  "name": "Skua Point",
                  "rules": {
                    "light": "off",
                    "name-prefix": { "severity": "wrong", "prefix": "lab_" },
                    "twins": { "saved": 100000 },
                    "hidden-object": { "shelves": ["Masts"] }
                  }
                }
                """);
        RuleSet rules = RuleSet.read(file);
        List<String> found = Made.rules(Made.inspect(flawed(), rules));
        assertThat(found).doesNotContain("light", "twins", "hidden-object").contains("name-prefix");
        assertThat(rules.fingerprint()).isNotEqualTo(RuleSet.USUAL.fingerprint());
        Path again = folder.resolve("again.json");
        rules.write(again);
        assertThat(RuleSet.read(again)).isEqualTo(rules);
        rules.complete().write(again);
        assertThat(Made.rules(Made.inspect(flawed(), RuleSet.read(again)))).isEqualTo(found);
    }

    @Test
    @DisplayName("says the line of what is wrong in a rule file")
    void wrongRules() throws Exception {
        List<String> problems = new ArrayList<>();
        for (String text : List.of(
                "{\n \"rules\": {\n  \"lihgt\": \"off\" } }",
                "{\n \"rules\": {\n  \"light\": \"loud\" } }",
                "{\n \"rules\": {\n  \"far-part\": {\n \"distance\": \"far\" } } }",
                "{\n \"rules\": {\n  \"far-part\": {\n \"width\": 3 } } }",
                "{\n \"rules\": {\n  \"light\": \"off\"\n  \"sky\": \"off\" } }",
                "[]")) {
            Path file = folder.resolve("rules.json");
            Files.writeString(file, text);
            assertThatThrownBy(() -> RuleSet.read(file))
                    .isInstanceOfSatisfying(
                            PrepException.class, e -> problems.add(e.place().orElse("") + ": " + e.getMessage()));
        }
        assertThat(problems)
                .satisfiesExactly(
                        problem -> assertThat(problem).startsWith("line 3").contains("no rule \"lihgt\""),
                        problem ->
                                assertThat(problem).startsWith("line 3").contains("off, information, caution or wrong"),
                        problem -> assertThat(problem).startsWith("line 4").contains("is a number"),
                        problem -> assertThat(problem).startsWith("line 4").contains("it has distance"),
                        problem -> assertThat(problem).startsWith("line 4"),
                        problem -> assertThat(problem).startsWith("line 1").contains("is an object"));
    }
}
