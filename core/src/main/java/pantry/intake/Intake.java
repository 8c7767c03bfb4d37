package pantry.intake;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.exchange.FileReaders;
import pantry.exchange.format.Imported;
import pantry.exchange.format.TextureSet;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Identity;
import pantry.library.Library;
import pantry.library.Licences;
import pantry.library.NameClaim;
import pantry.library.Published;
import pantry.library.Tags;
import pantry.library.VersionContents;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.BuildingValues;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.render.RenderCache;

/** Takes files into libraries: measured, converted to USD in metres with Y up, pictured, sealed. */
public final class Intake {
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

    /** As above, but of a file for itself, whatever it makes together with those beside it. */
    public Imported readAlone(Path file, Progress progress) {
        return readers.readAlone(file, progress);
    }

    /** How an arrival's numbers may be understood, the likely way first; what it carries besides does not count. */
    public static List<ScaleCandidate> candidates(ArrivalSummary arrival, Axis up, Neighbours neighbours) {
        return candidates(arrival, up, neighbours, Optional.empty());
    }

    /** As above, where an asset of the same shape is known. */
    public static List<ScaleCandidate> candidates(
            ArrivalSummary arrival, Axis up, Neighbours neighbours, Optional<ScaleEvidence.Twin> twin) {
        Box3 box = arrival.upright().getOrDefault(up, Box3.EMPTY);
        return ScaleCandidate.of(
                box.isEmpty() ? Vec3.ZERO : box.size(),
                new ScaleEvidence(arrival.unit(), usualUnit(arrival), neighbours, twin));
    }

    /** STL files come from machines and printers, which count in millimetres (common practice). */
    private static Optional<LengthUnit> usualUnit(ArrivalSummary arrival) {
        return Names.ending(String.valueOf(arrival.file().getFileName())).equals("stl")
                ? Optional.of(LengthUnit.MILLIMETRES)
                : Optional.empty();
    }

    /** The choices that an arrival begins with, where the shelf has no usual ones. */
    public static Slip suggested(ArrivalSummary arrival, String shelf, Neighbours neighbours) {
        Axis up = arrival.up().orElse(Axis.Y);
        double factor = candidates(arrival, up, neighbours).getFirst().factor();
        AssetKind kind =
                switch (arrival.holds()) {
                    case MODEL -> AssetKind.MODEL;
                    case MATERIALS -> AssetKind.MATERIAL;
                    case PART -> AssetKind.MATERIAL_PART;
                    case MOTIONS -> AssetKind.MOTION;
                    case FIXTURES -> AssetKind.LIGHT_RIG;
                    case IMAGE -> AssetKind.IMAGE;
                };
        String name = arrival.series()
                .map(ArrivalSummary.Series::title)
                .or(() -> Optional.of(arrival.file())
                        .filter(file -> kind == AssetKind.MATERIAL && TextureSet.isImage(file))
                        .flatMap(TextureSet::title))
                .orElseGet(() -> title(arrival.file()));
        Slip slip = Slip.plain(name, kind, shelf, factor, up).withTags(arrival.kinds());
        if (arrival.holds() == Imported.Holds.FIXTURES) {
            return slip.withMaking(
                    slip.making().keeping(Carried.Kind.LIGHTS, true).keeping(Carried.Kind.CAMERAS, true));
        }
        return arrival.isFarOff() ? slip.withPivot(Pivot.BASE) : slip;
    }

    /** As above, of what was read. */
    public static Slip suggested(Imported arrival, String shelf, Neighbours neighbours) {
        return suggested(ArrivalSummary.of(arrival), shelf, neighbours);
    }

    /** A file's name as a title: {@code radiation_screen-2.obj} becomes {@code Radiation screen 2}. */
    static String title(Path file) {
        String stem = Names.title(Names.stem(file.getFileName().toString()).replaceAll("[_\\-.]+", " "));
        return stem.substring(0, 1).toUpperCase(Locale.ROOT) + stem.substring(1);
    }

    /**
     * What an arrival lacks: the names of textures that were not found, and of all files that it names and that may not
     * be read, with the reason. An image that the file names on the drive of another machine, as exporters write it, is
     * looked for by its name like any other, and is told by that.
     */
    public static List<String> missing(Imported arrival) {
        Map<String, FileGate.Refusal> refused = new LinkedHashMap<>();
        arrival.refused().forEach(refusal -> refused.put(refusal.written(), refusal));
        Set<String> missing = new LinkedHashSet<>();
        for (Texture texture : textures(arrival)) {
            if (texture.found()) {
                refused.remove(texture.name());
            } else {
                FileGate.Refusal refusal = refused.remove(texture.name());
                missing.add(refusal == null ? texture.name() : saidOf(texture, refusal));
            }
        }
        refused.values().forEach(refusal -> missing.add(refusal.line()));
        return List.copyOf(missing);
    }

    private static String saidOf(Texture texture, FileGate.Refusal refusal) {
        boolean ofExporter =
                refusal.reason() == FileGate.Reason.REMOTE && !refusal.written().contains("://");
        return ofExporter ? texture.baseName() : refusal.line();
    }

    /**
     * What came of an arrival.
     *
     * @param error how far its surfaces were moved by leaving triangles out, at most, metres
     */
    public record Shelved(Published published, double error) {}

    /**
     * Of which asset, and how, something becomes the next version.
     *
     * @param note what is said about the version; may be empty
     */
    public record Next(Asset asset, VersionStatus status, String note) {}

    /**
     * What a version is made of.
     *
     * @param series the same thing as other variants, prepared like the model
     * @param files that it was read from; none where it was made
     */
    private record Source(Model model, Optional<Imported.Series> series, List<Imported> files) {
        static Source made(Model model) {
            return new Source(model, Optional.empty(), List.of());
        }

        String name() {
            return VersionWriter.sourceName(files);
        }
    }

    /**
     * Shelves an arrival, as a new asset or as the next version of one.
     *
     * @throws IntakeException where textures are missing and the slip does not allow that
     * @throws pantry.library.LibraryException where the library refuses
     */
    public Shelved shelve(Imported arrival, Slip slip, Library library, Progress progress) {
        requireComplete(arrival, slip, library);
        progress.step("preparing " + slip.name(), 0.1);
        Preparation.Reduced prepared = Preparation.prepared(arrival, slip);
        return new Shelved(shelve(source(arrival, prepared, slip), slip, library, progress), prepared.error());
    }

    private static Source source(Imported arrival, Preparation.Reduced prepared, Slip slip) {
        return new Source(prepared.model(), Preparation.series(arrival, slip), List.of(arrival));
    }

    private static void requireComplete(Imported arrival, Slip slip, Library library) {
        if (arrival.file().toAbsolutePath().normalize().startsWith(library.root())) {
            throw new IntakeException(arrival.file(), "is part of the library already");
        }
        List<String> missing = missing(arrival);
        if (!missing.isEmpty() && !slip.allowMissing()) {
            throw new IntakeException(
                    arrival.file(),
                    "lacks " + lacking(arrival, missing.size()) + ": " + String.join(", ", missing)
                            + "; name a folder that has it, or allow shelving without it");
        }
    }

    private static long missingTextures(Imported arrival) {
        return textures(arrival).stream().filter(texture -> !texture.found()).count();
    }

    private static Set<Texture> textures(Imported arrival) {
        Set<Texture> all = new LinkedHashSet<>();
        arrival.models().forEach(model -> all.addAll(model.textures()));
        return all;
    }

    private static String lacking(Imported arrival, int count) {
        String what = missingTextures(arrival) == count ? "texture" : "file";
        return count == 1 ? "a " + what : count + " " + what + "s";
    }

    /** What a slip's choices cost an arrival that has more than surfaces; empty where they cost nothing. */
    public static Optional<String> lostStructure(ArrivalSummary arrival, Slip slip) {
        return KeptStructure.lost(arrival, slip);
    }

    /** Shelves a model that was made rather than read; in metres, Y up. */
    public Published shelve(Model model, Slip slip, Library library, Progress progress) {
        return shelve(Source.made(model), slip, library, progress);
    }

    /**
     * Publishes an arrival as an asset's next version; name, shelf and card stay the asset's.
     *
     * @param slip how the arrival is understood and prepared
     * @throws IntakeException where textures are missing and the slip does not allow that
     * @throws pantry.library.LibraryException where the library refuses, or somebody else has reserved the asset
     */
    public Published publish(Imported arrival, Slip slip, Next next, Library library, Progress progress) {
        requireComplete(arrival, slip, library);
        Card card = next.asset().card();
        progress.step("preparing " + card.name(), 0.1);
        Slip named = slip.withName(card.name()).withKind(card.kind());
        Source source = source(arrival, Preparation.prepared(arrival, named), named);
        return publish(source, named, next, library, progress);
    }

    /** Publishes a model that was made rather than read; in metres, Y up. */
    public Published publish(Model model, Slip slip, Next next, Library library, Progress progress) {
        return publish(Source.made(model), slip, next, library, progress);
    }

    private Published publish(Source source, Slip named, Next next, Library library, Progress progress) {
        String id = next.asset().card().id();
        return library.publish(
                next.asset(),
                next.status(),
                contents(
                        source,
                        named,
                        id,
                        new PartLinks(library, slug -> next.asset().folder()),
                        progress),
                Library.noted(next.note(), new Identity(id, named.name()).labels(source.name())),
                progress.part(0.8, 1));
    }

    private Published shelve(Source source, Slip slip, Library library, Progress progress) {
        if (slip.versionOf().isPresent()) {
            Asset asset = library.find(slip.versionOf().get());
            Slip named = slip.withName(asset.card().name());
            return publish(source, named, new Next(asset, VersionStatus.READY, ""), library, progress);
        }
        List<String> tags = Tags.given(slip.tags());
        String licence = Licences.given(slip.licence());
        NameClaim claim = library.claimName(slip.shelf(), Names.title(slip.name()));
        try {
            Slip named = slip.withName(claim.name());
            String id = UUID.randomUUID().toString();
            Card card = Card.fresh(id, named.name(), slip.kind())
                    .described(tags, "", licence, slip.credit(), source.name())
                    .withFields(BuildingValues.told(source.model().extras().custom()));
            return library.shelve(
                    card,
                    slip.shelf(),
                    contents(
                            source,
                            named,
                            id,
                            new PartLinks(library, slug -> library.shelfFolder(slip.shelf())
                                    .resolve(slug)),
                            progress),
                    new Identity(id, named.name()).labels(source.name()),
                    progress.part(0.8, 1));
        } finally {
            library.release(claim);
        }
    }

    private VersionContents contents(Source source, Slip slip, String id, PartLinks parts, Progress progress) {
        VersionWriter.Contents written = new VersionWriter.Contents(
                source.model(),
                source.series(),
                source.files(),
                KeptStructure.of(source.files(), slip, readers::gate),
                parts);
        return (data, slug, version) ->
                new VersionWriter(written, slip, id, cache, progress).write(data, slug, version);
    }

    /** The files to be received among the given ones, and within the given folders; see {@link Listing}. */
    public static List<Path> files(List<Path> filesAndFolders) {
        List<Path> files = new ArrayList<>();
        Listing.of(filesAndFolders, Progress.NONE).entries().forEach(entry -> files.add(entry.file()));
        return files;
    }
}
