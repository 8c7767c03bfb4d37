package pantry.intake;

import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.Axis;
import pantry.exchange.Facts;
import pantry.exchange.FileReaders;
import pantry.exchange.Imported;
import pantry.exchange.Model;
import pantry.exchange.Texture;
import pantry.exchange.UsdModelWriter;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Library;
import pantry.library.Published;
import pantry.render.RenderCache;
import pantry.render.Thumbnails;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/** Takes files into libraries: measured, converted to USD in metres with Y up, pictured, sealed. */
public final class Intake {
    private static final int DEEPEST_FOLDER = 32;

    private final FileReaders readers;
    private final RenderCache cache;

    public Intake(FileReaders readers, RenderCache cache) {
        this.readers = readers;
        this.cache = cache;
    }

    /** Reads an arrival; nothing is changed anywhere. */
    public Imported read(Path file, Progress progress) {
        return readers.read(file, progress);
    }

    /**
     * The files of known kinds, and the archives, among the given files and, sorted, within the given folders.
     *
     * @throws IntakeException where a folder cannot be read
     */
    public static List<Path> files(List<Path> filesAndFolders) {
        List<Path> files = new ArrayList<>();
        for (Path path : filesAndFolders) {
            if (!Files.isDirectory(path)) {
                files.add(path);
                continue;
            }
            try (Stream<Path> inside = Files.walk(path, DEEPEST_FOLDER, FileVisitOption.FOLLOW_LINKS)) {
                inside.filter(Files::isRegularFile)
                        .filter(file -> FileReaders.knows(file) || Archives.isArchive(file))
                        .sorted()
                        .forEach(files::add);
            } catch (IOException e) {
                throw new IntakeException(path, "cannot be read: " + IoProblems.describe(e), e);
            }
        }
        return files;
    }

    /** The heights of the assets on a shelf and below it, metres. */
    public static List<Double> neighbours(Library library, String shelf) {
        List<Double> heights = new ArrayList<>();
        for (Asset asset : library.assets()) {
            if (!shelf.isEmpty()
                    && (asset.shelf().equals(shelf) || asset.shelf().startsWith(shelf + "/"))) {
                asset.shown()
                        .map(version -> asset.facts(version).bounds().size().y())
                        .ifPresent(heights::add);
            }
        }
        return heights;
    }

    /** How an arrival's numbers may be understood, the likely way first. */
    public static List<ScaleCandidate> candidates(Imported arrival, Axis up, List<Double> neighbours) {
        Vec3 extent = arrival.model().bounds().transformed(up.toYUp()).size();
        return ScaleCandidate.of(extent, arrival.unit(), neighbours);
    }

    /** The choices that an arrival begins with. */
    public static Slip suggested(Imported arrival, String shelf, List<Double> neighbours) {
        Axis up = arrival.up().orElse(Axis.Y);
        double factor = candidates(arrival, up, neighbours).getFirst().factor();
        return new Slip(
                title(arrival.file()), AssetKind.MODEL, shelf, factor, up, PartsMode.KEEP, List.of(), "", "", false);
    }

    /** A file's name as a title: {@code radiation_screen-2.obj} becomes {@code Radiation screen 2}. */
    static String title(Path file) {
        String stem = Names.stem(file.getFileName().toString())
                .replaceAll("[_\\-.]+", " ")
                .strip();
        return stem.isEmpty() ? "Unnamed" : Character.toUpperCase(stem.charAt(0)) + stem.substring(1);
    }

    /** The arrival in metres, Y up, its parts as the slip says. */
    public static Model prepared(Imported arrival, Slip slip) {
        Matrix4 change = slip.up().toYUp().times(Matrix4.scale(new Vec3(slip.factor(), slip.factor(), slip.factor())));
        return Parts.arranged(arrival.model().reframed(change), slip.parts()).named(slip.name());
    }

    /**
     * Shelves an arrival.
     *
     * @throws IntakeException where textures are missing and the slip does not allow that
     * @throws pantry.library.LibraryException where the library refuses
     */
    public Published shelve(Imported arrival, Slip slip, Library library, Progress progress) {
        List<String> missing = arrival.model().textures().stream()
                .filter(texture -> !texture.found())
                .map(Texture::name)
                .toList();
        if (!missing.isEmpty() && !slip.allowMissing()) {
            throw new IntakeException(
                    arrival.file(),
                    "lacks " + (missing.size() == 1 ? "a texture" : missing.size() + " textures") + ": "
                            + String.join(", ", missing)
                            + "; put it beside the file, or allow shelving without it");
        }
        progress.step("preparing " + slip.name(), 0.1);
        Model model = prepared(arrival, slip);
        return shelve(model, List.of(arrival), slip, library, progress);
    }

    /** Shelves a model that was made rather than read; in metres, Y up. */
    public Published shelve(Model model, Slip slip, Library library, Progress progress) {
        return shelve(model, List.of(), slip, library, progress);
    }

    private Published shelve(Model model, List<Imported> sources, Slip slip, Library library, Progress progress) {
        String id = UUID.randomUUID().toString();
        String source =
                sources.isEmpty() ? "" : sources.getFirst().file().getFileName().toString();
        Card card = Card.fresh(id, slip.name(), slip.kind())
                .described(slip.tags(), "", slip.licence(), slip.credit(), source);
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put("External-Identifier", id);
        labels.put("External-Description", slip.name());
        return library.shelve(
                card,
                slip.shelf(),
                (data, slug, version) -> write(model, sources, id, slip.name(), data, slug, version, progress),
                labels,
                progress.part(0.8, 1));
    }

    private void write(
            Model model,
            List<Imported> sources,
            String id,
            String name,
            Path data,
            String slug,
            String version,
            Progress progress)
            throws IOException {
        String root = Names.identifier(name);
        Path geometry = data.resolve(slug + ".geom.usdc");
        progress.step("writing geometry", 0.3);
        Map<Texture, String> textures = copyTextures(model, data.resolve("textures"));
        LayerFiles.write(UsdModelWriter.layer(model, root, geometry, textures::get), geometry);
        Path entry = data.resolve(slug + ".usda");
        LayerFiles.write(entryLayer(entry, root, id, name, version, geometry), entry);
        for (Imported source : sources) {
            copySource(source, data.resolve("source"));
        }
        progress.step("measuring", 0.5);
        AtomicFiles.write(data.resolve("facts.json"), Json.write(Facts.of(slug + ".usda", model, 1, "Y")));
        progress.step("drawing the picture", 0.6);
        AtomicFiles.write(data.resolve("preview.png"), Thumbnails.png(model, cache, Thumbnails.SIZE));
    }

    private static Layer entryLayer(Path file, String root, String id, String name, String version, Path geometry) {
        Layer layer = Layer.inMetres(file, root);
        PrimSpec prim = layer.root().define("Xform", root);
        prim.metadata().put("kind", new Value.Token("component"));
        Map<String, Value.Dictionary.Entry> info = new LinkedHashMap<>();
        info.put("identifier", new Value.Dictionary.Entry("string", new Value.Text(id)));
        info.put("name", new Value.Dictionary.Entry("string", new Value.Text(name)));
        info.put("version", new Value.Dictionary.Entry("string", new Value.Text(version)));
        prim.metadata().put("assetInfo", new Value.Dictionary(info));
        prim.setPayloads(Reference.to("./" + geometry.getFileName()));
        return layer;
    }

    /** Copies what was found, each content once; the names of those not found stay as they were written. */
    private static Map<Texture, String> copyTextures(Model model, Path folder) throws IOException {
        Map<Texture, String> written = new HashMap<>();
        Map<String, String> byContent = new HashMap<>();
        Set<String> taken = new HashSet<>();
        for (Texture texture : model.textures()) {
            if (texture.file().isEmpty()) {
                String base = texture.name().replace('\\', '/');
                written.put(texture, "./textures/" + base.substring(base.lastIndexOf('/') + 1));
                continue;
            }
            Path file = texture.file().get();
            String sum = Sha256.of(file);
            String name = byContent.get(sum);
            if (name == null) {
                Files.createDirectories(folder);
                String original = file.getFileName().toString();
                String ending = Names.ending(original);
                String stem = Names.free(Names.slug(Names.stem(original)), taken::contains);
                taken.add(stem);
                name = ending.isEmpty() ? stem : stem + "." + ending;
                Files.copy(file, folder.resolve(name));
                byContent.put(sum, name);
            }
            written.put(texture, "./textures/" + name);
        }
        return written;
    }

    private static void copySource(Imported source, Path folder) throws IOException {
        Files.createDirectories(folder);
        List<Path> files = new ArrayList<>(List.of(source.file()));
        files.addAll(source.companions());
        for (Path file : files) {
            Path target = folder.resolve(file.getFileName());
            if (!Files.exists(target)) {
                Files.copy(file, target);
            }
        }
    }
}
