package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.usd.AssetLocation;
import pantry.usd.UsdException;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/**
 * What versions of assets weigh by themselves, without the other assets that they are made of. Versions are sealed, so that
 * what was found out once is kept.
 *
 * <p>Safe for use by several threads.
 */
public final class AssetWeights {
    private final Map<Use, Content> known = new ConcurrentHashMap<>();
    private final LayerCache layers = Strays.inLibraries();

    /**
     * What a version holds.
     *
     * @param drawn triangles, as often as they are drawn
     * @param light triangles drawn where proxies stand in for what has some
     * @param stored triangles, each mesh once
     * @param layers the files of the layers that it is made of
     * @param images the files of its textures
     */
    record Content(long drawn, long light, long stored, Set<Path> layers, Set<Path> images) {
        static final Content NOTHING = new Content(0, 0, 0, Set.of(), Set.of());

        Content {
            layers = Set.copyOf(layers);
            images = Set.copyOf(images);
        }
    }

    /** A version as others use it, however they do. */
    static Use key(Path folder, String version) {
        return new Use(folder, version, false);
    }

    /**
     * What versions hold by themselves.
     *
     * @param parts what is used in each version that is made of others, and how often, through all levels
     */
    Map<Use, Content> of(Reach reach, Set<Use> versions, Map<Use, Map<Use, Long>> parts, Progress progress) {
        Set<Use> wanted = new HashSet<>(versions);
        versions.forEach(
                version -> wanted.addAll(parts.getOrDefault(version, Map.of()).keySet()));
        List<Use> unknown =
                wanted.stream().filter(version -> !known.containsKey(version)).toList();
        int[] done = {0};
        List<Content> whole = Parallel.map(unknown, version -> {
            progress.step("weighing " + version.target().getFileName(), (double) done[0]++ / unknown.size());
            return reach.asset(version.target())
                    .filter(asset -> asset.versions().contains(version.version()))
                    .map(asset -> whole(asset, version.version()))
                    .orElse(Content.NOTHING);
        });
        Map<Use, Content> wholes = new HashMap<>();
        for (int i = 0; i < unknown.size(); i++) {
            wholes.put(unknown.get(i), whole.get(i));
        }
        // Those that are made of others need what these hold by themselves.
        unknown.stream()
                .sorted(java.util.Comparator.comparingInt(
                        version -> parts.getOrDefault(version, Map.of()).size()))
                .forEach(version ->
                        known.put(version, own(wholes.getOrDefault(version, Content.NOTHING), parts.get(version))));
        Map<Use, Content> result = new LinkedHashMap<>();
        wanted.forEach(version -> result.put(version, known.getOrDefault(version, Content.NOTHING)));
        return result;
    }

    private Content own(Content whole, @org.jspecify.annotations.Nullable Map<Use, Long> parts) {
        if (parts == null) {
            return whole;
        }
        long drawn = whole.drawn();
        long light = whole.light();
        long stored = whole.stored();
        Set<Path> files = new HashSet<>(whole.layers());
        Set<Path> images = new HashSet<>(whole.images());
        for (Map.Entry<Use, Long> part : parts.entrySet()) {
            Content content = known.getOrDefault(part.getKey(), Content.NOTHING);
            drawn -= content.drawn() * part.getValue();
            light -= content.light() * part.getValue();
            stored -= content.stored();
            files.removeAll(content.layers());
            images.removeAll(content.images());
        }
        return new Content(Math.max(0, drawn), Math.max(0, light), Math.max(0, stored), files, images);
    }

    private Content whole(Asset asset, String version) {
        try {
            Stage stage = Stage.open(layers.open(AssetLocation.of(asset.entryLayer(version))), layers);
            MeshCache meshes = new MeshCache();
            Model model = UsdModelReader.read(stage, meshes).model();
            Model light = UsdModelReader.readForWork(stage, meshes, path -> true, path -> false)
                    .model();
            Set<Path> files = new HashSet<>();
            stage.usedLayers().forEach(layer -> layer.file().ifPresent(files::add));
            Set<Path> images = new HashSet<>();
            for (Texture texture : model.textures()) {
                texture.file().ifPresent(images::add);
            }
            return new Content(model.trianglesDrawn(), light.trianglesDrawn(), model.trianglesStored(), files, images);
        } catch (UsdException e) {
            return Content.NOTHING;
        }
    }

    /** The model of a version, in its own unit; empty where it cannot be composed. */
    Optional<Model> model(Asset asset, String version) {
        try {
            Stage stage = Stage.open(layers.open(AssetLocation.of(asset.entryLayer(version))), layers);
            return Optional.of(UsdModelReader.read(stage, new MeshCache()).model());
        } catch (UsdException e) {
            return Optional.empty();
        }
    }

    /** What is used in each version of the libraries' assets that is made of others, through all levels. */
    static Map<Use, Map<Use, Long>> parts(Reach reach) {
        Map<Use, Map<Use, Long>> parts = new HashMap<>();
        for (UseIndex.FileUse found : reach.usesInLibraries()) {
            reach.owner(found.file())
                    .flatMap(owner ->
                            owner.version().map(version -> key(owner.asset().folder(), version)))
                    .ifPresent(owner -> parts.computeIfAbsent(owner, key -> new HashMap<>())
                            .merge(plain(found.use()), found.count(), Long::sum));
        }
        return parts;
    }

    /** A use, however it refers to what it uses. */
    static Use plain(Use use) {
        return new Use(use.target(), use.version(), false);
    }

    /** The versions among some uses. */
    static List<Use> versions(Iterable<Use> uses) {
        List<Use> versions = new ArrayList<>();
        uses.forEach(use -> {
            if (use.isOfAsset()) {
                versions.add(use);
            }
        });
        return versions;
    }
}
