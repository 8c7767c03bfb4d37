package pantry.desktop;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import java.util.List;
import javafx.stage.Window;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.testfx.api.FxToolkit;
import org.testfx.framework.junit5.ApplicationExtension;

/** A class of tests that opens windows; it is run in a process of its own. Each test leaves none open. */
@Tag("window")
@ExtendWith({ApplicationExtension.class, InWindow.Closing.class})
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
public @interface InWindow {
    /** What a window does while it is shown would go on while the files of the test are deleted. */
    final class Closing implements AfterEachCallback {
        @Override
        public void afterEach(ExtensionContext context) throws Exception {
            FxToolkit.setupFixture(() -> List.copyOf(Window.getWindows()).forEach(Window::hide));
        }
    }
}
