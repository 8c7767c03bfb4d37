package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import pantry.base.AtomicFiles;
import pantry.usd.Layer;
import pantry.usd.compose.Arc;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Opinion;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.PointInstancer;

/** Counting by multiplying up comes to what is counted one by one in the composed stage. */
class UseCounterTest {
    @Property(tries = 150, seed = "2718")
    void countsAreThoseOfTheComposedStage(@ForAll long seed) throws IOException {
        Path folder = Files.createTempDirectory("generated");
        try {
            List<Path> scenes = GeneratedProject.in(folder, seed);
            LayerCache layers = new LayerCache();
            UseCounter counter = new UseCounter(layers);
            for (Path scene : scenes) {
                Layer layer = LayerFiles.read(scene);
                Stage stage = Stage.open(layer, layers);
                Map<Use, Long> expected = new OneByOne(stage).counts();
                Map<Use, Long> counts = counter.count(layer);
                // Where instances hold themselves, it is where the walk began that says at which of them it ends.
                if (stage.problems().stream().noneMatch(UseCounterTest::isOfInstances)) {
                    assertThat(counts).as(folder + " " + scene.getFileName()).isEqualTo(expected);
                }
            }
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static boolean isOfInstances(CompositionProblem problem) {
        return problem.kind() == CompositionProblem.Kind.CYCLE
                && problem.message().contains("instance");
    }

    /** Visits every prim of a composed stage as often as it is drawn. */
    private static final class OneByOne {
        private final Stage stage;
        private final Map<Use, Long> counts = new HashMap<>();

        OneByOne(Stage stage) {
            this.stage = stage;
        }

        Map<Use, Long> counts() {
            stage.root().children().forEach(this::visit);
            return counts;
        }

        private void visit(Prim prim) {
            if (prim.isActive() && prim.isDefined() && !prim.isAbstract()) {
                draw(prim);
            }
        }

        private void draw(Prim prim) {
            uses(prim).forEach(use -> counts.merge(use, 1L, Long::sum));
            if (prim.typeName().equals(PointInstancer.TYPE)) {
                PointInstancer points = PointInstancer.of(prim);
                for (int i = 0; i < points.count(); i++) {
                    if (points.isShown(i)) {
                        stage.prim(points.prototypes().get(points.prototype(i))).ifPresent(this::draw);
                    }
                }
            } else {
                prim.prototype().orElse(prim).children().forEach(this::visit);
            }
        }

        /** By the names that the generated files have. */
        private static Set<Use> uses(Prim prim) {
            Set<Path> files = new LinkedHashSet<>();
            for (List<Opinion.Site> chain : prim.arcChains()) {
                Opinion.Site site = chain.getLast();
                boolean brings = site.arc() == Arc.REFERENCE || site.arc() == Arc.PAYLOAD;
                if (brings && chain.get(chain.size() - 2).layer() != site.layer()) {
                    files.add(site.layer().file().orElseThrow());
                }
            }
            Set<Use> uses = new LinkedHashSet<>();
            for (Path file : files) {
                String name = file.getFileName().toString();
                if (name.startsWith("scene")) {
                    uses.add(new Use(file, "", false));
                } else if (!name.contains(".geom.") && !name.equals("ready.usda")) {
                    Path asset = file.getParent().getParent().getParent();
                    String version = file.getParent().getParent().getFileName().toString();
                    uses.add(new Use(asset, version, files.contains(asset.resolve("ready.usda"))));
                }
            }
            return uses;
        }
    }
}
