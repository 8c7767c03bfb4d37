package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class StartGateTest {
    private final List<String> done = new ArrayList<>();
    private final StartGate gate = new StartGate(Runnable::run);

    @Test
    void keepsWhatComesUntilItIsOpenedAndPassesItOnInOrder() {
        gate.execute(() -> done.add("first"));
        gate.execute(() -> done.add("second"));
        assertThat(done).isEmpty();
        gate.open();
        assertThat(done).containsExactly("first", "second");
        gate.execute(() -> done.add("third"));
        assertThat(done).containsExactly("first", "second", "third");
    }

    @Test
    void whatIsKeptIsPassedOnOnce() {
        gate.execute(() -> gate.execute(() -> done.add("asked for by the first")));
        gate.open();
        gate.open();
        assertThat(done).containsExactly("asked for by the first");
    }
}
