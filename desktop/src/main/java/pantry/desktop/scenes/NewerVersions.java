package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Session;
import pantry.library.VersionStatus;
import pantry.scene.Placement;

/** How far placements are behind the ready versions of what they show, as the catalogue knows them. */
final class NewerVersions {
    /** From a version's entry layer to the asset's folder: its name, its data and the version. */
    private static final int ABOVE = 3;

    private final Session session;
    private @Nullable Map<Path, IndexedAsset> byFolder;

    NewerVersions(Session session) {
        this.session = session;
        session.shelving().contentsProperty().addListener(change -> byFolder = null);
    }

    /** How many versions there are from the one that a placement is pinned to, to the ready one; 0 where it follows. */
    int behind(Placement placement) {
        if (placement.held() != Placement.Held.PINNED) {
            return 0;
        }
        return folder(placement.layer())
                .map(folder -> items().get(folder))
                .filter(item -> item.status().equals(VersionStatus.READY.word()))
                .map(item -> Math.max(0, number(item.version()) - number(placement.version())))
                .orElse(0);
    }

    private static Optional<Path> folder(Path layer) {
        Optional<Path> folder = Optional.of(layer);
        for (int i = 0; i < ABOVE; i++) {
            folder = folder.map(Path::getParent);
        }
        return folder;
    }

    private static int number(String version) {
        return version.matches("v\\d{3,9}") ? Integer.parseInt(version.substring(1)) : 0;
    }

    private Map<Path, IndexedAsset> items() {
        Map<Path, IndexedAsset> known = byFolder;
        if (known == null) {
            known = new HashMap<>();
            for (IndexedAsset item : session.shelving().finder().items()) {
                known.put(Path.of(item.folder()), item);
            }
            byFolder = known;
        }
        return known;
    }
}
