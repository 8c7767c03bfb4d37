package pantry.library;

import java.nio.file.Path;
import java.time.Instant;

/**
 * Something that was taken off its place.
 *
 * @param folder where it lies
 * @param id the asset's; empty where it is a file or version
 * @param path where it stood, from the library's root
 * @param name for a person
 */
public record TrashItem(Path folder, Instant when, String who, String id, String path, String name) {}
