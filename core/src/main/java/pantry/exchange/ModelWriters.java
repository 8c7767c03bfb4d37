package pantry.exchange;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import pantry.base.Failures;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.Written;
import pantry.exchange.gltf.GltfWriter;
import pantry.exchange.materialx.MaterialXWriter;
import pantry.exchange.obj.ObjWriter;
import pantry.exchange.ply.PlyWriter;
import pantry.exchange.stl.StlWriter;
import pantry.exchange.usd.UsdMeshReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.model.Model;

/** Writes models in other formats, by the target's ending. A file is there whole or not at all. */
public final class ModelWriters {
    private static final List<String> ENDINGS =
            List.of("glb", "gltf", "obj", "ply", "stl", "usda", "usdc", "usd", "usdz", "mtlx");
    private static final List<String> UNITLESS = List.of("obj", "ply", "stl");

    private ModelWriters() {}

    /** The endings that can be written. */
    public static List<String> endings() {
        return ENDINGS;
    }

    /** Whether a format does not say what its numbers are in, so that they have to be told a unit. */
    public static boolean isUnitless(String ending) {
        return UNITLESS.contains(ending);
    }

    /**
     * How a model is written.
     *
     * @param unit metres per unit of the numbers, where the format does not say its unit
     * @param unitName what it is called
     * @param source the file that the model was read from
     * @param samples whether its surfaces only show what has none ({@link pantry.exchange.format.Samples})
     */
    public record Options(double unit, String unitName, Optional<Path> source, boolean samples) {
        public static final Options METRES = new Options(1, "metres", Optional.empty());

        public Options(double unit, String unitName, Optional<Path> source) {
            this(unit, unitName, source, false);
        }

        /** In metres, of a model that was read from a file. */
        public static Options of(Path source) {
            return new Options(1, METRES.unitName, Optional.of(source));
        }
    }

    private interface Body {
        void write(Path temporary) throws IOException;
    }

    /** As {@link #write(Model, Path, Options)}, in metres. */
    public static Written write(Model model, Path target) {
        return write(model, target, Options.METRES);
    }

    /**
     * Writes a model.
     *
     * @param model metres, Y up
     * @return what the format cannot hold, and what was missing
     * @throws ExchangeException where the ending is not known or the file cannot be written
     */
    public static Written write(Model model, Path target, Options options) {
        ExportNotes notes = new ExportNotes(options.source());
        String ending = Names.ending(target.getFileName().toString());
        model.extras().foreign().forEach(what -> notes.left(foreign(what)));
        noteStrands(model, ending, notes);
        Model told = UNITLESS.contains(ending) ? inUnit(model, options.unit()) : model;
        String unit = options.unitName();
        switch (ending) {
            case "glb" -> atomically(target, file -> GltfWriter.writeBinary(told, file, notes));
            case "gltf" -> atomically(target, file -> GltfWriter.writeText(told, file, target, notes));
            case "obj" -> atomically(target, file -> ObjWriter.write(told, file, target, unit, notes));
            case "ply" -> atomically(target, file -> PlyWriter.write(told, file, target, unit, notes));
            case "stl" -> atomically(target, file -> StlWriter.write(told, file, unit, notes));
            case "usda", "usdc", "usd", "usdz" -> UsdModelWriter.write(told, target, notes, options.samples());
            case "mtlx" -> atomically(target, file -> MaterialXWriter.write(told, file, target, notes));
            default ->
                throw new ExchangeException(
                        target, "cannot be written: known endings are " + String.join(", ", ENDINGS));
        }
        return new Written(notes.lines());
    }

    /** Points and lines are such in USD, glTF and OBJ, and clouds of points in PLY. */
    private static void noteStrands(Model model, String ending, ExportNotes notes) {
        boolean kept = ending.startsWith("usd")
                || ending.startsWith("gl")
                || ending.equals("obj")
                || ending.equals("ply") && PlyWriter.isCloud(model);
        model.visit((owner, part, world) -> {
            if (!kept && part.strands().isPresent()) {
                notes.left("object " + owner.name() + " has "
                        + part.strands().get().words() + ", written as the surface that shows them");
            }
        });
    }

    private static String foreign(String what) {
        boolean lines = UsdMeshReader.isLines(what.split(" ")[0]);
        return what + (lines ? " is written as a mesh" : " left out");
    }

    private static Model inUnit(Model model, double unit) {
        return unit == 1 ? model : model.reframed(Matrix4.scale(new Vec3(1 / unit, 1 / unit, 1 / unit)));
    }

    private static void atomically(Path target, Body body) {
        Path temporary = target.resolveSibling(".pantry-" + UUID.randomUUID() + "-" + target.getFileName());
        try {
            body.write(temporary);
            Files.move(temporary, target, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException | UncheckedIOException e) {
            IOException cause = e instanceof UncheckedIOException unchecked ? unchecked.getCause() : (IOException) e;
            Failures.cleanUp(cause, () -> Files.deleteIfExists(temporary));
            throw new ExchangeException(target, "cannot be written: " + IoProblems.describe(cause), cause);
        }
    }
}
