package pantry.desktop.frame;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;

/** The frame knows workplaces by their interface alone, so these are no real ones. */
class NavigatorTest {
    private final Navigator navigator = new Navigator();
    private final List<String> done = new ArrayList<>();
    private final Workplace here = workplace("Here", "Save", "Shortcut+S");
    private final Workplace there = workplace("There", "Save it there", "Shortcut+S");

    private Workplace workplace(String name, String command, String keys) {
        Workplace made = mock(Workplace.class);
        when(made.name()).thenReturn(name);
        when(made.accept(any())).thenReturn(Optional.empty());
        when(made.commands()).thenReturn(List.of(Command.of(command, keys, () -> done.add(command))));
        return made;
    }

    @BeforeEach
    void register() {
        navigator.register(List.of(here, there), here);
    }

    @Test
    void aRequestIsFulfilledByWhoAcceptsItOnceThatIsShown() {
        Request request = new Request.TakeIn(List.of(Path.of("a.glb")));
        when(there.accept(request))
                .thenReturn(Optional.of(
                        () -> done.add(navigator.currentProperty().get().name())));
        navigator.send(request);
        assertThat(done).containsExactly("There");
        assertThat(navigator.currentProperty().get()).isSameAs(there);
    }

    @Test
    void aRequestThatNobodyAcceptsIsAFaultAndLeadsNowhere() {
        assertThatThrownBy(() -> navigator.send(new Request.ChooseArrivals()))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("ChooseArrivals");
        assertThat(navigator.currentProperty().get()).isSameAs(here);
    }

    @Test
    void workplacesAreRegisteredOnce() {
        assertThatThrownBy(() -> navigator.register(List.of(here), here)).isInstanceOf(IllegalStateException.class);
        assertThat(navigator.workplaces()).containsExactly(here, there);
    }

    @Test
    void oneKeyMeansInEachWorkplaceWhatThatDeclares() {
        CommandTable table = new CommandTable(navigator, List.of(Command.of("Larger text", () -> done.add("larger"))));
        assertThat(table.here()).extracting(Command::name).containsExactly("Larger text", "Save");
        navigator.go(there);
        assertThat(table.here()).extracting(Command::name).containsExactly("Larger text", "Save it there");
    }

    @Test
    void aCommandThatIsFoundByItsNameRunsInItsWorkplace() {
        CommandTable table = new CommandTable(navigator, List.of());
        CommandTable.Entry found = table.named("there").findFirst().orElseThrow();
        assertThat(found.group()).isEqualTo("There");
        table.run(found);
        assertThat(navigator.currentProperty().get()).isSameAs(there);
        assertThat(done).containsExactly("Save it there");
        assertThat(table.named("nothing like it")).isEmpty();
    }

    @Test
    void aKeyThatTheToolkitDoesNotKnowIsAFaultAtOnce() {
        assertThatThrownBy(() -> Command.of("Save", "Shortcut+SAVE", () -> {}))
                .isInstanceOf(IllegalArgumentException.class);
        assertThat(Command.of("Save", () -> {}).keyText()).isEmpty();
    }
}
