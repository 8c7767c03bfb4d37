package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;

/** Work that is done when the test says so. */
class LatestWorkTest {
    private final Deque<Runnable> waiting = new ArrayDeque<>();
    private final Deque<Runnable> onInterface = new ArrayDeque<>();
    private final Ledger ledger = new Ledger(Clock.systemUTC());
    private final BackgroundWork background =
            new BackgroundWork(new Background(waiting::add, waiting::add, onInterface::add), ledger);
    private final LatestWork latest = new LatestWork(background);
    private final List<String> begun = new ArrayList<>();
    private final List<String> shown = new ArrayList<>();

    private void ask(String what) {
        latest.answer(
                "looking",
                progress -> {
                    begun.add(what);
                    return what;
                },
                shown::add);
    }

    private static void drain(Deque<Runnable> queue) {
        while (!queue.isEmpty()) {
            queue.poll().run();
        }
    }

    @Test
    void ofSeveralThatWaitOnlyTheLastIsDone() {
        ask("a");
        ask("b");
        ask("c");
        assertThat(latest.isPending()).isTrue();
        drain(waiting);
        drain(onInterface);
        assertThat(begun).containsExactly("c");
        assertThat(shown).containsExactly("c");
        assertThat(latest.isPending()).isFalse();
    }

    @Test
    void whatIsDoneAlreadyWhenMoreIsAskedIsNotShown() {
        ask("a");
        drain(waiting);
        ask("b");
        drain(onInterface);
        assertThat(shown).as("the answer to the earlier question").isEmpty();
        assertThat(latest.isPending()).isTrue();
        drain(waiting);
        drain(onInterface);
        assertThat(shown).containsExactly("b");
    }

    @Test
    void whatIsDroppedIsNotShown() {
        ask("a");
        latest.drop();
        assertThat(latest.isPending()).isFalse();
        drain(waiting);
        drain(onInterface);
        assertThat(shown).isEmpty();
    }

    @Test
    void whatFailedIsNoLongerWaitedFor() {
        latest.<String>answer(
                "looking",
                progress -> {
                    throw new PantryException("cannot be read");
                },
                shown::add);
        drain(waiting);
        drain(onInterface);
        assertThat(latest.isPending()).isFalse();
        assertThat(ledger.lines().getFirst().text()).contains("cannot be read");
    }

    @Test
    void onlyTheFailureOfTheNewestIsTold() {
        List<String> failed = new ArrayList<>();
        for (String what : List.of("a", "b")) {
            latest.quietly(
                    "reading",
                    progress -> {
                        throw new PantryException(Path.of(what), "is not there");
                    },
                    result -> {},
                    problem -> failed.add(problem.file().orElseThrow()));
        }
        drain(waiting);
        drain(onInterface);
        assertThat(failed).containsExactly("b");
        assertThat(latest.isPending()).isFalse();
    }

    @Test
    void workIsIdleOnceItsOutcomeWasHandledWhateverItWas() {
        background.run("a", progress -> "fine", result -> {});
        background.run(
                "b",
                progress -> {
                    throw new CancellationException("cancelled");
                },
                result -> {});
        background.run(
                "c",
                progress -> {
                    throw new IllegalStateException("a fault");
                },
                result -> {});
        assertThat(background.jobs()).hasSize(3);
        drain(waiting);
        assertThat(background.isIdle()).isFalse();
        drain(onInterface);
        assertThat(background.isIdle()).isTrue();
        assertThat(background.jobs()).isEmpty();
        assertThat(ledger.lines())
                .extracting(LedgerLine::text)
                .first()
                .asString()
                .contains("c failed by a fault of Pantry's own");
    }
}
