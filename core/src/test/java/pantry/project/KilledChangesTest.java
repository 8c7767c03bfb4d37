package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;

import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.catalogue.IndexDatabase;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.scene.Scene;
import pantry.testing.JavaProcess;
import pantry.testing.Workshop;
import pantry.usd.AssetPaths;
import pantry.usd.schema.TransformComponents;

/** Processes that pin, let follow, move, relink and hand over are killed at random moments: every file is the old or the new one. */
class KilledChangesTest {
    /** In each of two projects, which are worked on at once; {@code -Dpantry.kills=50} for more. */
    private static final int KILLS = Integer.getInteger("pantry.kills", 6);

    private static final int MOST = 60;
    private static final int SCENES = 6;
    private static final String HERE = "part.usda";
    private static final String LOST = "sign.usda";
    private static final String THERE = "deep/moved part.usda";

    @TempDir
    private Path folder;

    /** Changes files until it is killed; says when it starts. */
    static final class Worker {
        private Worker() {}

        public static void main(String[] arguments) {
            Path place = Path.of(arguments[0]);
            Library library = Library.open(place.resolve("library"), "victim", Clock.systemUTC());
            try (IndexDatabase database = IndexDatabase.open(place.resolve("index.sqlite"))) {
                UseIndex index = new UseIndex(database);
                ChangeRuns runs = new ChangeRuns(place.resolve("changes"), Clock.systemUTC());
                runs.recover();
                index.refresh(List.of(Project.open(place.resolve("project"))), List.of(library), Progress.NONE);
                System.out.println("working");
                for (int round = Integer.parseInt(arguments[1]); ; round++) {
                    List<Project> projects = List.of(Project.open(place.resolve("project")));
                    index.refresh(projects, List.of(library), Progress.NONE);
                    Reach reach = new Reach(index, List.of(library), projects);
                    switch (round % 4) {
                        case 0 -> {
                            Updates updates = new Updates(reach, List.of(), List.of());
                            boolean pinned = reach.held().stream()
                                    .anyMatch(held -> held.version().isPresent());
                            runs.run(
                                    pinned ? updates.follow() : updates.pin(),
                                    file -> AssetPaths.PLAIN,
                                    file -> "",
                                    Progress.NONE);
                        }
                        case 1 -> {
                            Path here = place.resolve("project").resolve(HERE);
                            Path there = place.resolve("project").resolve(THERE);
                            boolean away = Files.exists(there);
                            Moving.plan(reach, projects, away ? there : here, away ? here : there)
                                    .run(runs, file -> "", Progress.NONE);
                        }
                        case 2 -> relinkOrTakeBack(reach, runs, place);
                        default ->
                            HandOver.plan(reach, projects, List.of(), HandOver.Form.FOLDER, Progress.NONE)
                                    .write(
                                            place.resolve("out").resolve(String.valueOf(System.nanoTime())),
                                            Clock.systemUTC(),
                                            Progress.NONE);
                    }
                }
            }
        }
    }

    private static void relinkOrTakeBack(Reach reach, ChangeRuns runs, Path place) {
        List<Relinking.Missing> missing =
                new Relinking(reach, List.of(place.resolve("project/attic")), Progress.NONE).missing();
        ChangePlan plan = Relinking.plan(missing);
        if (missing.isEmpty()) {
            runs.runs().stream()
                    .filter(run -> run.title().equals(plan.title()))
                    .findFirst()
                    .ifPresent(run -> runs.undo(run.id()));
        } else {
            runs.run(plan, file -> AssetPaths.PLAIN, file -> "", Progress.NONE);
        }
    }

    @Test
    void everyKillLeavesFilesThatAreTheOldOrTheNewOnes() {
        Parallel.map(List.of(4711, 1147), 2, this::killed);
    }

    private boolean killed(int seed) {
        try (Workshop workshop = new Workshop(Files.createDirectories(folder.resolve("seed" + seed)))) {
            Path place = workshop.library().root().getParent();
            Path project = Files.createDirectories(place.resolve("project"));
            Asset mast = workshop.block("Mast", "Masts", 9);
            for (int i = 0; i < SCENES; i++) {
                Scene scene = workshop.newScene(project.resolve("scene" + i + ".usda"));
                for (int p = 0; p < 20; p++) {
                    scene.placements()
                            .place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
                }
                scene.save();
            }
            Files.writeString(project.resolve(HERE), "#usda 1.0\n( defaultPrim = \"Part\" )\ndef Scope \"Part\" {}\n");
            Files.writeString(project.resolve("user.usda"), "#usda 1.0\ndef \"A\" (references = @./part.usda@) {}\n");
            Files.createDirectories(project.resolve("attic"));
            Files.writeString(project.resolve("attic").resolve(LOST), "#usda 1.0\ndef Scope \"Sign\" {}\n");
            for (int i = 0; i < SCENES; i++) {
                Files.writeString(
                        project.resolve("sign" + i + ".usda"),
                        "#usda 1.0\ndef \"A\" (references = @./sign.usda@</Sign>) {}\n");
            }
            Random random = new Random(seed);
            int handedOver = 0;
            boolean moved = false;
            boolean pinned = false;
            boolean relinked = false;
            // Some of each have to be finished; when, is chance.
            for (int kill = 0;
                    kill < KILLS || kill < MOST && !(handedOver > 0 && moved && pinned && relinked);
                    kill++) {
                Process process = JavaProcess.start(Worker.class, place.toString(), String.valueOf(kill));
                assertThat(process.inputReader().readLine()).isEqualTo("working");
                assertThat(process.waitFor(random.nextInt(1_200), TimeUnit.MILLISECONDS))
                        .as("it works until it is killed")
                        .isFalse();
                process.destroyForcibly().waitFor();
                new ChangeRuns(place.resolve("changes"), Clock.systemUTC()).recover();
                pinned |= isWhole(workshop, project);
                moved |= isInOnePlace(project);
                relinked |= isRelinked(project);
                handedOver += bags(place.resolve("out"));
            }
            assertThat(handedOver).as("some were handed over").isPositive();
            assertThat(moved).as("some moves were finished").isTrue();
            assertThat(pinned).as("and some pins").isTrue();
            assertThat(relinked).as("and some that was missing was relinked").isTrue();
            return true;
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            throw new AssertionError("interrupted", e);
        }
    }

    /** @return whether they are pinned; all are, or all follow */
    private static boolean isWhole(Workshop workshop, Path project) throws IOException {
        Set<Boolean> pinned = new java.util.HashSet<>();
        for (int i = 0; i < SCENES; i++) {
            Path file = project.resolve("scene" + i + ".usda");
            String text = Files.readString(file);
            assertThat(workshop.openScene(file).model().trianglesDrawn()).isEqualTo(20 * 12);
            boolean follows = text.contains("ready.usda");
            assertThat(text.contains("v001/data")).as("one or the other").isNotEqualTo(follows);
            pinned.add(!follows);
        }
        assertThat(pinned).as("what was half done was taken back").hasSize(1);
        return pinned.contains(true);
    }

    /** @return whether the part stands where it was moved to */
    private static boolean isInOnePlace(Path project) throws IOException {
        boolean there = Files.exists(project.resolve(THERE));
        assertThat(Files.exists(project.resolve(HERE))).isNotEqualTo(there);
        assertThat(Files.readString(project.resolve("user.usda"))).contains(there ? "@./" + THERE : "@./" + HERE);
        return there;
    }

    /** @return whether the signs name the file where it is; all do, or none does */
    private static boolean isRelinked(Path project) throws IOException {
        Set<Boolean> relinked = new java.util.HashSet<>();
        for (int i = 0; i < SCENES; i++) {
            String text = Files.readString(project.resolve("sign" + i + ".usda"));
            relinked.add(text.equals("#usda 1.0\ndef \"A\" (references = @./attic/sign.usda@</Sign>) {}\n"));
            assertThat(text.replace("./attic/", "./"))
                    .isEqualTo("#usda 1.0\ndef \"A\" (references = @./sign.usda@</Sign>) {}\n");
        }
        assertThat(relinked).as("what was half done was taken back").hasSize(1);
        return relinked.contains(true);
    }

    /** Whole by another implementation of BagIt; they are removed. */
    private static int bags(Path out) throws IOException {
        if (!Files.isDirectory(out)) {
            return 0;
        }
        int count = 0;
        try (Stream<Path> all = Files.list(out);
                BagVerifier verifier = new BagVerifier()) {
            for (Path bag : all.toList()) {
                if (!bag.getFileName().toString().startsWith(".")) {
                    verifier.isValid(new BagReader().read(bag), false);
                    count++;
                }
                pantry.base.AtomicFiles.deleteTree(bag);
            }
            return count;
        } catch (IOException e) {
            throw e;
        } catch (Exception e) {
            throw new AssertionError("a bag is not whole", e);
        }
    }
}
