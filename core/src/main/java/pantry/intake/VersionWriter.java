package pantry.intake;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.Executor;
import java.util.concurrent.ForkJoinPool;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.exchange.format.SampleNodes;
import pantry.exchange.usd.Links;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.library.AssetKind;
import pantry.library.Identity;
import pantry.library.SourceFiles;
import pantry.model.Facts;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.model.ShaderNetwork.Graph;
import pantry.render.ColourNames;
import pantry.render.RenderCache;
import pantry.render.Thumbnails;
import pantry.shading.PartOutputs;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/**
 * Writes what a version holds: layers, textures, facts, picture, and the file as it was received. Of large models, the
 * picture, the facts and the layers do not wait for each other.
 */
final class VersionWriter {
    private static final long WORTH_HANDING_OVER = 50_000;

    /** What has no surface, and without which what uses it is nothing: nothing is made of it, and it is not loaded later. */
    private static final Set<AssetKind> INGREDIENTS = EnumSet.of(AssetKind.MATERIAL_PART, AssetKind.MOTION);

    /** What is seen by bodies that are not part of it. */
    private static final Set<AssetKind> SEEN_BY_SAMPLES = EnumSet.of(AssetKind.MATERIAL, AssetKind.MOTION);

    /** Types of root prims that an entry layer says too, since programs look for them there. */
    private static final Set<String> OWN_TYPES = Set.of("SkelRoot", "NodeGraph");

    private final Model model;
    private final Optional<Imported.Series> series;
    private final List<Imported> sources;
    private final Optional<KeptStructure> kept;
    private final PartLinks parts;
    private final Slip slip;
    private final String id;
    private final RenderCache cache;
    private final Progress progress;

    /**
     * What is written.
     *
     * @param model in metres, Y up, arranged as the slip says
     * @param series the same thing as other variants, likewise
     * @param sources the files as they were received
     * @param kept the layers of the source, where they are taken in rather than what is drawn of them
     * @param parts how material parts of the library are referenced
     */
    record Contents(
            Model model,
            Optional<Imported.Series> series,
            List<Imported> sources,
            Optional<KeptStructure> kept,
            PartLinks parts) {}

    VersionWriter(Contents contents, Slip slip, String id, RenderCache cache, Progress progress) {
        this.model = contents.model();
        this.series = contents.series();
        this.sources = contents.sources();
        this.kept = contents.kept();
        this.parts = contents.parts();
        this.slip = slip;
        this.id = id;
        this.cache = cache;
        this.progress = progress;
    }

    void write(Path data, String slug, String version) throws IOException {
        progress.step("writing " + slip.name(), 0.3);
        // Small things are sooner done than handed over, and there are often several of them at once.
        Executor others = model.trianglesDrawn() < WORTH_HANDING_OVER ? Runnable::run : ForkJoinPool.commonPool();
        CompletableFuture<Map<String, List<String>>> variants =
                CompletableFuture.supplyAsync(() -> writeFiles(data, slug, version), others);
        CompletableFuture<Facts> facts = CompletableFuture.supplyAsync(() -> facts(slug), others);
        BufferedImage picture;
        try {
            // It is drawn by all cores that have nothing else to do, this one among them.
            picture = Thumbnails.picture(model, cache, Thumbnails.SIZE);
            AtomicFiles.write(data.resolve("preview.png"), Png.of(picture));
        } finally {
            // Nobody may work on what is given up.
            CompletableFuture.allOf(variants, facts)
                    .exceptionally(failure -> null)
                    .join();
        }
        try {
            AtomicFiles.write(
                    data.resolve("facts.json"),
                    Json.write(facts.join().seen(variants.join(), ColourNames.of(picture))));
        } catch (CompletionException e) {
            if (e.getCause() instanceof UncheckedIOException io) {
                throw io.getCause();
            }
            throw e.getCause() instanceof RuntimeException known ? known : e;
        }
    }

    private Facts facts(String slug) {
        Model rest = atRest(model);
        boolean shown = hasSamples() || slip.kind() == AssetKind.MATERIAL_PART;
        return Facts.of(slug + ".usda", rest, shown ? SampleNodes.without(rest) : rest, 1, "Y");
    }

    /** Whether some of it only shows what has no surface of its own. */
    private boolean hasSamples() {
        return SEEN_BY_SAMPLES.contains(slip.kind()) || isOfFixtures();
    }

    /** @return the names of the variants by their sets' */
    private Map<String, List<String>> writeFiles(Path data, String slug, String version) {
        try {
            Map<String, List<String>> variants = writeLayers(data, slug, version);
            for (Imported source : sources) {
                copySource(source, data.resolve(SourceFiles.FOLDER));
            }
            return variants;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** @return the names of the variants by their sets' */
    private Map<String, List<String>> writeLayers(Path data, String slug, String version) throws IOException {
        String root = Names.identifier(slip.name());
        Path geometry = data.resolve(slug + ".geom.usdc");
        List<Model> models = new ArrayList<>(List.of(model));
        series.ifPresent(others -> models.addAll(others.others().values()));
        TextureStore textures =
                TextureStore.copy(models.stream().map(parts::withoutPartImages).toList(), data);
        Links links = parts.in(data, slug, textures);
        Layer layer = structured(data, geometry, textures).orElseGet(() -> madeLayer(geometry, links));
        PrimSpec prim = layer.prim(SdfPath.ROOT.child(root)).orElseThrow();
        if (series.isEmpty() && !INGREDIENTS.contains(slip.kind())) {
            process(prim, model);
        }
        if (hasSamples()) {
            UsdModelWriter.asGuides(prim);
        }
        LayerFiles.write(layer, geometry);
        Path entry = data.resolve(slug + ".usda");
        LayerFiles.write(entryLayer(entry, root, prim.typeName(), version, geometry), entry);
        Map<String, List<String>> variants = new LinkedHashMap<>();
        prim.variantSets().forEach((set, names) -> variants.put(set, List.copyOf(names.keySet())));
        return variants;
    }

    /** The layer of what is not taken in as its source's layers say it. */
    private Layer madeLayer(Path geometry, Links links) {
        if (slip.kind() == AssetKind.MATERIAL_PART) {
            return partLayer(geometry, links);
        }
        return series.map(others -> seriesLayer(others, geometry, links))
                .orElseGet(() -> modelLayer(model, geometry, links));
    }

    /** The graph that the model shows, or the first that a material of it is made of. */
    private Layer partLayer(Path file, Links links) {
        Graph graph = model.materials().stream()
                .flatMap(material -> material.network().stream())
                .flatMap(network -> network.graphs().values().stream())
                .filter(each -> !PartOutputs.of(each).isEmpty())
                .findFirst()
                .orElseThrow(() -> new IntakeException(
                        file, "cannot be a material part: it has no group of nodes with an output for a surface"));
        return UsdModelWriter.part(graph, Names.identifier(slip.name()), file, links);
    }

    private Layer modelLayer(Model of, Path file, Links links) {
        return UsdModelWriter.layer(
                of,
                Names.identifier(slip.name()),
                file,
                links,
                slip.parts() == PartsMode.SINGLE ? UsdModelWriter.Split.SUBSETS : UsdModelWriter.Split.SHARED);
    }

    /** Adds what is made of a model besides. */
    private void process(PrimSpec root, Model of) {
        slip.making().collision().write(root, of);
        if (slip.making().levels() && sources.stream().noneMatch(Imported::hasLevels)) {
            DetailLevels.write(root);
        }
    }

    /** A variant for each of a series; each refers to a layer of its own beside the geometry layer. */
    private Layer seriesLayer(Imported.Series others, Path geometry, Links links) {
        Map<String, Model> all = new LinkedHashMap<>();
        all.put(others.own(), model);
        all.putAll(others.others());
        Layer layer = Layer.inMetres(geometry, Names.identifier(slip.name()));
        PrimSpec root = layer.root().define("Xform", Names.identifier(slip.name()));
        root.setVariantSetNames(others.set());
        root.select(others.set(), others.own());
        all.forEach((name, each) -> {
            Path file = geometry.resolveSibling(
                    geometry.getFileName().toString().replace(".geom.usdc", "." + name + ".usdc"));
            Layer own = modelLayer(each, file, links);
            PrimSpec prim = own.prim(SdfPath.ROOT.child(root.name())).orElseThrow();
            process(prim, each);
            LayerFiles.write(own, file);
            if (prim.typeName().equals("SkelRoot")) {
                root.setTypeName("SkelRoot");
            }
            root.variant(others.set(), name).contents().setReferences(Reference.to("./" + file.getFileName()));
        });
        return layer;
    }

    /** What moves is measured as it stands where nothing moves it. */
    private static Model atRest(Model model) {
        return Posing.of(model).map(Posing::atRest).orElse(model);
    }

    /** The source's own layers, where what is drawn of them is what was read; nothing is left of them otherwise. */
    private Optional<Layer> structured(Path data, Path geometry, TextureStore textures) throws IOException {
        if (kept.isEmpty()) {
            return Optional.empty();
        }
        Layer layer = kept.get()
                .write(data, geometry, texture -> textures.path(texture).substring(2));
        if (isOfFixtures()) {
            withMarks(layer, modelLayer(model.with(Model.Extras.NONE), geometry, Links.ofImages(textures::path)));
            return Optional.of(layer);
        }
        Stage stage = Stage.open(layer, new LayerCache(FileGate.to(List.of(data))));
        if (KeptStructure.isSame(UsdModelReader.read(stage, new MeshCache()).model(), model)) {
            return Optional.of(layer);
        }
        AtomicFiles.deleteTree(data.resolve(KeptStructure.LAYERS));
        return Optional.empty();
    }

    private boolean isOfFixtures() {
        return sources.stream().anyMatch(source -> source.holds() == Imported.Holds.FIXTURES);
    }

    /** Puts the bodies that show where lights stand beside these. */
    private void withMarks(Layer layer, Layer marks) {
        SdfPath root = SdfPath.ROOT.child(Names.identifier(slip.name()));
        PrimSpec to = layer.prim(root).orElseThrow();
        for (PrimSpec child : marks.prim(root).orElseThrow().children()) {
            if (to.child(child.name()).isEmpty()) {
                to.add(child.copy());
            }
        }
    }

    private Layer entryLayer(Path file, String root, String type, String version, Path geometry) {
        Layer layer = Layer.inMetres(file, root);
        PrimSpec prim = layer.root().define(OWN_TYPES.contains(type) ? type : "Xform", root);
        new Identity(id, slip.name()).write(prim, version);
        Reference contents = Reference.to("./" + geometry.getFileName());
        if (INGREDIENTS.contains(slip.kind())) {
            prim.setReferences(contents);
        } else {
            prim.metadata().put("kind", new Value.Token("component"));
            prim.setPayloads(contents);
        }
        return layer;
    }

    private static void copySource(Imported source, Path folder) throws IOException {
        source.requireUnchanged();
        Files.createDirectories(folder);
        List<Path> files = new ArrayList<>(List.of(source.file()));
        files.addAll(source.companions());
        for (Path file : files) {
            Path target = folder.resolve(file.getFileName());
            if (!Files.exists(target)) {
                Files.copy(file, target);
            }
        }
        source.requireUnchanged();
    }

    /** The name of the file that a version was made of; empty where it was made by Pantry. */
    static String sourceName(List<Imported> sources) {
        return Optional.of(sources).filter(s -> !s.isEmpty()).stream()
                .map(s -> s.getFirst().file().getFileName().toString())
                .findFirst()
                .orElse("");
    }
}
