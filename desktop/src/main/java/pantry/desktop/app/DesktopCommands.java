package pantry.desktop.app;

import java.util.List;
import java.util.Set;
import pantry.cli.CommandSource;

/** Adds {@code open} and {@code demo} to the {@code pantry} command. */
public final class DesktopCommands implements CommandSource {
    private static final Set<String> WINDOWS = Set.of("open", "demo");
    private static final Set<String> WITHOUT_WINDOW = Set.of("-h", "--help", "--make-only");

    @Override
    public List<Object> commands() {
        return List.of(new OpenCommand(), new DemoCommand());
    }

    @Override
    public void getReady(List<String> arguments) {
        if (!arguments.isEmpty()
                && WINDOWS.contains(arguments.getFirst())
                && arguments.stream().noneMatch(WITHOUT_WINDOW::contains)) {
            PantryApp.getReady();
        }
    }
}
