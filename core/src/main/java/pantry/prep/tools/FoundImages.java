package pantry.prep.tools;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.intake.LostTextures;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Textures;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * Finds images that a working copy names and that are not there, in folders that a person chose. What is found is copied, so
 * that it goes with the working copy wherever that is saved or published.
 *
 * @param found the files by what the working copy wrote
 * @param missing what it wrote that is still not there
 */
public record FoundImages(Map<String, Path> found, List<String> missing) {
    public FoundImages {
        found = Map.copyOf(found);
        missing = List.copyOf(missing);
    }

    /**
     * Looks in folders and below them, and names what is found from now on, as one change; none where nothing is found.
     *
     * @throws pantry.base.PantryException where a folder cannot be read
     */
    public static FoundImages take(Workpiece piece, List<Path> folders, Progress progress) {
        LostTextures lost = LostTextures.in(folders, progress);
        Map<Textures.Use, Path> places = new LinkedHashMap<>();
        Map<String, Path> found = new LinkedHashMap<>();
        LinkedHashSet<String> missing = new LinkedHashSet<>();
        for (Textures.Use use : new Subject(piece, progress).textures().uses()) {
            if (use.file().isEmpty()) {
                Optional<Path> place = lost.find(use.written());
                place.ifPresentOrElse(
                        file -> {
                            found.put(use.written(), file);
                            places.put(use, file);
                        },
                        () -> missing.add(use.written()));
            }
        }
        if (!places.isEmpty()) {
            Map<Path, Path> copies = new HashMap<>();
            Tidying.change(
                    piece,
                    "Found " + Names.counted(found.size(), "image"),
                    tidying -> places.forEach((use, file) ->
                            tidying.setImage(use, copies.computeIfAbsent(file, each -> copy(piece, each)))));
        }
        return new FoundImages(found, new ArrayList<>(missing));
    }

    private static Path copy(Workpiece piece, Path file) {
        Path target = piece.newImage(String.valueOf(file.getFileName()));
        try {
            return Files.copy(file, target);
        } catch (IOException e) {
            throw new PrepException(file, null, "cannot be copied: " + IoProblems.describe(e), e);
        }
    }

    /** What came of it, for a person: "found 2 images; still missing: rust.png". */
    public String says() {
        String what = found.isEmpty() ? "found none of the images" : "found " + Names.counted(found.size(), "image");
        return what + (missing.isEmpty() ? "" : "; still missing: " + String.join(", ", missing));
    }
}
