package pantry.desktop.controls;

import atlantafx.base.theme.PrimerLight;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.text.Font;

/** Applies fonts and styles. */
public final class Theme {
    /** Style class of the root at night. */
    private static final String NIGHT = "night";

    private static final String[] FONTS = {
        "Inter-Regular.otf",
        "Inter-Medium.otf",
        "Inter-SemiBold.otf",
        "JetBrainsMono-Regular.ttf",
        "JetBrainsMono-Medium.ttf"
    };

    private static boolean loaded;

    private Theme() {}

    /** Loads what the whole application needs, before the first scene; does nothing when called again. */
    public static void load() {
        if (loaded) {
            return;
        }
        for (String font : FONTS) {
            Font.loadFont(Theme.class.getResourceAsStream("/pantry/desktop/fonts/" + font), 13);
        }
        Application.setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
        loaded = true;
    }

    /** Gives a scene Pantry's styles. */
    public static void dress(Scene scene) {
        scene.getStylesheets()
                .add(Theme.class.getResource("/pantry/desktop/pantry.css").toExternalForm());
    }

    public static boolean isNight(Scene scene) {
        return scene.getRoot().getStyleClass().contains(NIGHT);
    }

    /** Turns day into night and back. */
    public static void setNight(Scene scene, boolean night) {
        scene.getRoot().getStyleClass().remove(NIGHT);
        if (night) {
            scene.getRoot().getStyleClass().add(NIGHT);
        }
    }

    /** The ground of the views, display colour. */
    public static int viewGround(boolean night) {
        return night ? 0x272C29 : 0xFFFDF8;
    }

    /** The lines on the ground of the views, display colour. */
    public static int viewGrid(boolean night) {
        return night ? 0x434A46 : 0xDDD5C3;
    }
}
