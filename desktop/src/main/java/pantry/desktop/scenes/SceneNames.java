package pantry.desktop.scenes;

import java.nio.file.Path;
import pantry.base.Names;
import pantry.scene.Placement;

/** What scenes, and the files that placements show, are called on the screen. */
final class SceneNames {
    private SceneNames() {}

    /** A scene's file, without the ending. */
    static String title(Path file) {
        return Names.stem(file.getFileName().toString());
    }

    /** The shelf and folder of the asset that a placement shows, or all of the path of another file. */
    static String source(Placement placement) {
        String path = placement.layer().toString().replace('\\', '/');
        int assets = path.indexOf("/assets/");
        return assets < 0 ? path : path.substring(assets + 8).replaceAll("/(v\\d+/data/.*|ready\\.usda)$", "");
    }
}
