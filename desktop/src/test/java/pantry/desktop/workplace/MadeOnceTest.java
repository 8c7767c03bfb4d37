package pantry.desktop.workplace;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class MadeOnceTest {
    private final List<String> made = new ArrayList<>();
    private final MadeOnce<List<String>> view = new MadeOnce<>(() -> {
        made.add("made");
        return new ArrayList<>();
    });

    @Test
    void nothingIsMadeBeforeItIsAskedFor() {
        view.doing(list -> list.add("opened"));

        assertThat(made).isEmpty();
        assertThat(view.ifMade()).isEmpty();
    }

    @Test
    void itIsMadeOnceHoweverItIsAskedFor() {
        Runnable open = view.doing(list -> list.add("opened"));

        open.run();
        open.run();

        assertThat(made).hasSize(1);
        assertThat(view.get()).containsExactly("opened", "opened");
        assertThat(view.ifMade()).containsSame(view.get());
    }
}
