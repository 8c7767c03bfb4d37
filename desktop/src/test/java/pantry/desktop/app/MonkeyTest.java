package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Stream;
import javafx.scene.control.Button;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.desktop.InWindow;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.StallMonitor;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.render.RenderScene;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.scene.SceneMotion;
import pantry.usd.SdfPath;
import pantry.usd.text.UsdaWriter;

/**
 * The whole application under a hand that does anything: no action has a fault, nothing holds the interface, undo and redo
 * lead back to where they began, what is drawn is what the scene says, and the library verifies in the end.
 *
 * <p>Two minutes within the suite; {@code -Dpantry.monkey.seconds=3600} for longer, {@code -Dpantry.monkey.seed} for
 * another way.
 */
@InWindow
class MonkeyTest {
    private static final int SECONDS = Integer.getInteger("pantry.monkey.seconds", 120);
    private static final long SEED = Long.getLong("pantry.monkey.seed", 17);

    /** Of waiting, or of the processor's time: what other programs on the machine take of it is no fault. */
    private static final Duration HELD_TOO_LONG = Duration.ofMillis(Long.getLong("pantry.monkey.stall", 1000));

    private static final int BETWEEN_CHECKS = 60;

    private final WholeApplication application;
    private Parts parts;
    private final List<StallMonitor.Stall> stalls = Collections.synchronizedList(new ArrayList<>());

    MonkeyTest(@TempDir Path folder) {
        application = WholeApplication.ofDemo(folder);
    }

    @Start
    void start(Stage stage) {
        parts = application.show(stage);
    }

    @AfterEach
    void close() {
        application.close();
    }

    private void untilIdle() throws TimeoutException {
        WaitForAsyncUtils.waitFor(
                120,
                TimeUnit.SECONDS,
                () -> ask(() -> parts.session().background().isIdle()));
    }

    @Test
    void nothingThatAHandDoesBreaksAnything() throws Exception {
        Answers.give();
        untilIdle();
        ask(() -> {
            parts.receive().model().add(List.of(application.arrivals()));
            parts.scenes().model().open(application.project().resolve("mast-field.usda"));
            return true;
        });
        untilIdle();
        Monkey monkey = ask(() -> new Monkey(SEED));
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
        try (StallMonitor monitor = new StallMonitor(FxThread::later, HELD_TOO_LONG, stalls::add)) {
            for (int step = 1; System.nanoTime() < end; step++) {
                ask(() -> {
                    monkey.act();
                    return true;
                });
                WaitForAsyncUtils.waitForFxEvents(2);
                if (step % BETWEEN_CHECKS == 0) {
                    check(step, monkey);
                }
            }
        }
        check(-1, monkey);
        assertThat(application.library().verify(Progress.NONE).problems())
                .as("the library, after seed " + SEED)
                .isEmpty();
    }

    /** What is played goes on for ever, and so does what draws it. */
    private void stopPlaying() {
        ask(() -> {
            parts.scenes().model().display().clock().playingProperty().set(false);
            parts.frame().getScene().getRoot().lookupAll("#play-motion").stream()
                    .map(Button.class::cast)
                    .filter(button -> "Stop".equals(button.getAccessibleText()))
                    .forEach(Button::fire);
            return true;
        });
    }

    private void check(int step, Monkey monkey) throws Exception {
        stopPlaying();
        untilIdle();
        String when = "seed " + SEED + ", step " + step + ", after " + ask(monkey::lastDeeds);
        assertThat(ask(() -> parts.session().ledger().stream()
                        .map(LedgerLine::text)
                        .filter(text -> text.contains("fault of Pantry's own"))
                        .toList()))
                .as(when)
                .isEmpty();
        assertThat(stalls.stream()
                        .filter(stall -> stall.isOwn(HELD_TOO_LONG))
                        .filter(stall -> stall.stack().stream()
                                .anyMatch(call -> call.getClassName().startsWith("pantry.desktop.")
                                        && !call.getClassName().startsWith("pantry.desktop.app.M")))
                        .toList())
                .as("held, " + when)
                .isEmpty();
        ScenesModel scenes = parts.scenes().model();
        if (ask(() -> scenes.sceneProperty().get().isPresent())) {
            undoAndRedo(scenes, when);
            untilIdle();
            liveViewIsWhatTheSceneSays(scenes, when);
        } else {
            ask(() -> {
                scenes.open(application.project().resolve("summer-station.usda"));
                return true;
            });
            untilIdle();
        }
    }

    /** What was told last, the newest first. */
    private String told() throws TimeoutException {
        return ask(() -> parts.session().ledger().stream()
                .limit(12)
                .map(line -> line.state() + " " + line.text() + " "
                        + parts.session().history().refusal(line).orElse(""))
                .toList()
                .toString());
    }

    private static String text(ScenesModel scenes) {
        return UsdaWriter.write(scenes.sceneProperty().get().orElseThrow().layer());
    }

    private void undoAndRedo(ScenesModel scenes, String when) throws TimeoutException {
        String before = ask(() -> text(scenes));
        Scene open = ask(() -> scenes.sceneProperty().get().orElseThrow());
        int undone = 0;
        // What was large is taken back in the background.
        for (; undone < 4 && ask(() -> open.undoName().isPresent()); undone++) {
            Optional<Object> last = ask(open::lastChange);
            ask(() -> {
                scenes.undo();
                return true;
            });
            untilIdle();
            assertThat(ask(open::lastChange))
                    .as("one change was taken back, " + when + ", told: " + told())
                    .isNotEqualTo(last);
        }
        for (; undone > 0; undone--) {
            ask(() -> {
                scenes.redo();
                return true;
            });
            untilIdle();
        }
        assertThat(ask(() -> text(scenes))).as("undone and done again, " + when).isEqualTo(before);
    }

    /** The live view, of everything and in full detail, against a copy of the scene's layer that is composed anew. */
    private void liveViewIsWhatTheSceneSays(ScenesModel scenes, String when) throws TimeoutException {
        ask(() -> {
            scenes.selection().leaveTo(Optional.empty());
            scenes.display().isolatedProperty().set(Set.of());
            // Placements that are shown by their proxies by themselves are so no longer, either.
            scenes.display().proxiesProperty().set(true);
            scenes.display().proxiesProperty().set(false);
            scenes.display().lampsProperty().set(false);
            scenes.showFocus(Optional.empty());
            return true;
        });
        untilIdle();
        String ledger = told();
        ask(() -> {
            Scene copy = scenes.sceneProperty().get().orElseThrow().snapshot();
            Set<SdfPath> hidden = copy.drawers().in(state -> state.hidden() || state.unloaded());
            Set<SdfPath> unloaded = copy.drawers().in(state -> state.unloaded());
            copy.load(path -> !path.startsWithAny(unloaded));
            Model still = copy.model(path -> false, hidden::contains);
            double time = scenes.display().clock().timeProperty().get();
            Model said = SceneMotion.of(copy, still)
                    .map(motion -> motion.at(motion.start() + time))
                    .orElse(still);
            RenderScene anew = RenderScene.of(said, new RenderCache());
            RenderScene live = scenes.shownProperty().get().drawn();
            assertThat(layers(scenes.placements()))
                    .as("what is placed, " + when)
                    .isEqualTo(layers(copy.placements().all()));
            assertThat(differing(owners(live), owners(anew)))
                    .as("drawn otherwise than said, " + when + ", hidden " + hidden + ", told: " + ledger)
                    .isEmpty();
            assertThat(live.triangles()).as("triangles, " + when).isEqualTo(anew.triangles());
            for (String owner : owners(live)) {
                Box3 shown = live.bounds(owner).orElse(Box3.EMPTY);
                Box3 told = anew.bounds(owner).orElse(Box3.EMPTY);
                assertThat(shown.isEmpty()).as(owner + ", " + when).isEqualTo(told.isEmpty());
                if (!told.isEmpty()) {
                    assertThat(shown.centre().minus(told.centre()).length())
                            .as(owner + ", shown " + shown + ", said " + told + ", " + when + ", told: " + ledger)
                            .isCloseTo(0, within(1e-3));
                }
            }
            return true;
        });
    }

    private static List<String> layers(List<Placement> placements) {
        return placements.stream()
                .map(placement -> placement.path() + " of " + placement.layer())
                .toList();
    }

    /** What is in one of two sets only, and in which: whole sets would be cut off in a report. */
    private static List<String> differing(Set<String> drawn, Set<String> said) {
        return Stream.concat(
                        drawn.stream().filter(each -> !said.contains(each)).map(each -> "drawn alone: " + each),
                        said.stream().filter(each -> !drawn.contains(each)).map(each -> "said alone: " + each))
                .toList();
    }

    private static Set<String> owners(RenderScene scene) {
        Set<String> owners = new TreeSet<>();
        for (int id = 0; scene.owner(id).isPresent(); id++) {
            owners.add(scene.owner(id).get());
        }
        return owners;
    }
}
