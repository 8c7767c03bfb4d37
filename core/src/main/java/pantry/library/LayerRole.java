package pantry.library;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * What a layer file is to an asset.
 *
 * @param folder the asset's; of a signpost, the folder where it stood
 * @param version that the file is of; empty where it is of none
 */
public record LayerRole(Kind kind, Path folder, String version) {
    /** How a layer takes part in an asset. */
    public enum Kind {
        /** References the version that is ready. */
        READY,
        /** The layer through which a version is used. */
        ENTRY,
        /** Another layer that a version is made of. */
        PART,
        /** A layer through which an asset's versions use another asset. */
        STUB,
        /** Stands for the asset where it stood before. */
        SIGNPOST
    }

    /** The role of a file, which need not be there; empty where it belongs to no asset. */
    public static Optional<LayerRole> of(Path file) {
        Path parent = file.getParent();
        Path above = parent == null ? null : parent.getParent();
        if (parent == null || above == null) {
            return Optional.empty();
        }
        if (file.endsWith(LibraryLayout.READY_LAYER) && standsOrStood(parent)) {
            return Optional.of(new LayerRole(signpostOr(Kind.READY, parent), parent, ""));
        }
        if (parent.endsWith(Uses.FOLDER) && standsOrStood(above)) {
            return Optional.of(new LayerRole(Kind.STUB, above, ""));
        }
        for (Path at = parent; at != null && at.getParent() != null; at = at.getParent()) {
            Path version = at.getParent();
            Path folder = version.getParent();
            if (at.endsWith(LibraryLayout.DATA)
                    && folder != null
                    && VersionName.matches(String.valueOf(version.getFileName()))
                    && standsOrStood(folder)) {
                String name = version.getFileName().toString();
                boolean entry = file.equals(LibraryLayout.entryLayer(folder, name));
                return Optional.of(new LayerRole(entry ? signpostOr(Kind.ENTRY, folder) : Kind.PART, folder, name));
            }
        }
        return Optional.empty();
    }

    private static boolean standsOrStood(Path folder) {
        return Files.exists(folder.resolve(LibraryLayout.CARD)) || Redirects.standsAt(folder);
    }

    private static Kind signpostOr(Kind kind, Path folder) {
        return Files.exists(folder.resolve(LibraryLayout.CARD)) ? kind : Kind.SIGNPOST;
    }
}
