package pantry.testing;

import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaReader;

/** Stages of one layer, written down in a test. */
public final class Stages {
    private Stages() {}

    /** @param text of the layer, without its first line */
    public static Stage of(String text) {
        return Stage.open(UsdaReader.parse("#usda 1.0\n" + text), location -> {
            throw new UsdException(location + " is not to be asked for here");
        });
    }

    /** A prim that must be there. */
    public static Prim prim(Stage stage, String path) {
        return stage.prim(SdfPath.of(path)).orElseThrow(() -> new AssertionError("no prim at " + path));
    }
}
