package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;

/** Work that is done one after another, whatever becomes of each. */
class OrderedWorkTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private OrderedWork work;
    private final List<String> begun = new ArrayList<>();
    private final List<String> done = new ArrayList<>();

    @BeforeEach
    void make() throws IOException {
        desk = new Desk(folder);
        work = new OrderedWork(desk.session().background(), problem -> done.add("failed: " + problem.getMessage()));
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void ask(String name) {
        work.quietly(
                name,
                progress -> {
                    begun.add(name);
                    if (name.equals("bad")) {
                        throw new PantryException("it is bad");
                    }
                    return name;
                },
                done::add);
    }

    @Test
    void eachBeginsOnceTheOneBeforeIsDoneAndAFailureHoldsUpNothing() {
        desk.holdWork();
        ask("first");
        ask("bad");
        ask("last");
        assertThat(begun).isEmpty();
        desk.releaseWork();
        assertThat(begun).containsExactly("first", "bad", "last");
        assertThat(done).containsExactly("first", "failed: it is bad", "last");
    }

    @Test
    void whatIsAskedForByWhatCameOfTheOneBeforeFollowsIt() {
        work.quietly("outer", progress -> "outer", name -> {
            done.add(name);
            ask("inner");
        });
        ask("next");
        assertThat(done).containsExactly("outer", "inner", "next");
    }
}
