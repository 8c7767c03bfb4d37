package pantry.desktop.app;

import java.util.List;
import pantry.cli.CommandSource;

/** Adds {@code open} and {@code demo} to the {@code pantry} command. */
public final class DesktopCommands implements CommandSource {
    @Override
    public List<Object> commands() {
        return List.of(new OpenCommand(), new DemoCommand());
    }
}
