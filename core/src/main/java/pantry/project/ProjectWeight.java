package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.FileGate;
import pantry.base.ImageDecoder;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * What the scenes of projects weigh, as boxes within boxes: project, scene, asset, and the assets that it is made of. Each
 * scene is weighed by itself, as a program that opens it meets it; what it holds once counts where it stands first.
 */
public final class ProjectWeight {
    /** Bytes of a texture's pixel in memory: four channels of eight bits (common practice for colour textures). */
    private static final int BYTES_PER_PIXEL = 4;

    private final Reach reach;
    private final Map<Use, Map<Use, Long>> parts;
    private final Map<Use, AssetWeights.Content> contents;
    private final Map<Path, Map<Use, Long>> uses = new LinkedHashMap<>();
    private final Map<Path, Set<Path>> subLayers = new HashMap<>();
    private final Map<Path, Set<Path>> images = new HashMap<>();
    private final Map<Path, Long> imageBytes = new HashMap<>();
    private final List<Path> scenes = new ArrayList<>();
    private final Box whole;

    /** What is weighed. */
    public enum Measure {
        /** Triangles, each mesh once. */
        STORED("Triangles stored"),
        /** Triangles, each mesh as often as it stands somewhere. */
        DRAWN("Triangles drawn"),
        /** Uses of assets and files. */
        PLACEMENTS("Placements"),
        /** Bytes that the textures take when they are decoded. */
        TEXTURES("Texture memory"),
        /** Bytes of layers and images. */
        FILES("Files");

        private final String words;

        Measure(String words) {
            this.words = words;
        }

        /** For a person. */
        public String words() {
            return words;
        }

        /** Whether it is measured in bytes. */
        public boolean isBytes() {
            return this == TEXTURES || this == FILES;
        }
    }

    /** How much of everything, in the field names that scripts rely on; see {@link Measure}. */
    public record Amounts(
            long trianglesStored, long trianglesDrawn, long placements, long textureBytes, long fileBytes) {
        public static final Amounts NOTHING = new Amounts(0, 0, 0, 0, 0);

        public long of(Measure measure) {
            return switch (measure) {
                case STORED -> trianglesStored;
                case DRAWN -> trianglesDrawn;
                case PLACEMENTS -> placements;
                case TEXTURES -> textureBytes;
                case FILES -> fileBytes;
            };
        }

        /** Both together. */
        public Amounts and(Amounts other) {
            return new Amounts(
                    trianglesStored + other.trianglesStored,
                    trianglesDrawn + other.trianglesDrawn,
                    placements + other.placements,
                    textureBytes + other.textureBytes,
                    fileBytes + other.fileBytes);
        }
    }

    /** What a box stands for. */
    public enum Kind {
        PROJECTS,
        PROJECT,
        SCENE,
        /** Another file of a project that a scene uses. */
        FILE,
        ASSET,
        /** What a scene or file has by itself. */
        OWN
    }

    /**
     * What something weighs, with all that is in it.
     *
     * @param path the project's folder, the file, or the asset's folder
     * @param version of an asset; empty otherwise
     * @param count how often it stands in what is around it
     * @param parts by name
     */
    public record Box(Kind kind, String name, Path path, String version, long count, Amounts amounts, List<Box> parts) {
        public Box {
            parts = List.copyOf(parts);
        }

        /** This box and all within it. */
        public Stream<Box> all() {
            return Stream.concat(Stream.of(this), parts.stream().flatMap(Box::all));
        }
    }

    private ProjectWeight(Reach reach, AssetWeights weights, Optional<Path> only, Progress progress) {
        this.reach = reach;
        parts = AssetWeights.parts(reach);
        readUses();
        scenes.addAll(only.map(Set::of).orElseGet(reach::unusedFiles));
        scenes.retainAll(reach.files());
        Set<Use> versions = new HashSet<>();
        scenes.forEach(
                scene -> versions.addAll(AssetWeights.versions(usesOf(scene).keySet())));
        contents = weights.of(reach, versions, parts, progress);
        whole = box();
    }

    /**
     * Weighs all scenes of the projects, which are the files that no other file uses.
     *
     * @param weights kept by the caller, so that the next time is quicker
     */
    public static ProjectWeight of(Reach reach, AssetWeights weights, Progress progress) {
        return new ProjectWeight(reach, weights, Optional.empty(), progress);
    }

    /** Weighs one file of the projects. */
    public static ProjectWeight of(Reach reach, Path file, AssetWeights weights, Progress progress) {
        return new ProjectWeight(reach, weights, Optional.of(file), progress);
    }

    /** All together. */
    public Box whole() {
        return whole;
    }

    /** The scenes that are weighed. */
    public List<Path> scenes() {
        return List.copyOf(scenes);
    }

    /** How often each version of an asset stands in the scenes, all together. */
    Map<Use, Long> placements() {
        Map<Use, Long> all = new LinkedHashMap<>();
        scenes.forEach(scene -> usesOf(scene).forEach((use, count) -> {
            if (use.isOfAsset()) {
                all.merge(use, count, Long::sum);
            }
        }));
        return all;
    }

    /** The scenes in which a version stands, through however many others. */
    List<Path> scenesWith(Use version) {
        return scenes.stream()
                .filter(scene -> usesOf(scene).containsKey(version))
                .toList();
    }

    AssetWeights.Content content(Use version) {
        return contents.getOrDefault(version, AssetWeights.Content.NOTHING);
    }

    /** Bytes that an image takes when it is decoded; 0 where that cannot be told. */
    long memory(Path image) {
        return imageBytes.computeIfAbsent(image, file -> ImageDecoder.size(file)
                .map(size -> (long) size[0] * size[1] * BYTES_PER_PIXEL)
                .orElse(0L));
    }

    private void readUses() {
        for (UseIndex.FileUse found : reach.usesInProjects()) {
            uses.computeIfAbsent(found.file(), file -> new LinkedHashMap<>())
                    .merge(AssetWeights.plain(found.use()), found.count(), Long::sum);
        }
        // What lies elsewhere on the machine is not opened, not even to be measured.
        FileGate gate = WhatIf.layers(reach).gate();
        for (UseIndex.Named named : reach.named()) {
            if (!named.missing()
                    && (named.sublayer() || named.image())
                    && gate.admit(named.target(), named.target().toString(), named.file())
                            .isPresent()) {
                (named.image() ? images : subLayers)
                        .computeIfAbsent(named.file(), file -> new HashSet<>())
                        .add(named.target());
            }
        }
    }

    private Map<Use, Long> usesOf(Path file) {
        return uses.getOrDefault(file, Map.of());
    }

    private Map<Use, Long> partsOf(Use use) {
        return use.isOfAsset() ? parts.getOrDefault(use, Map.of()) : usesOf(use.target());
    }

    private Box box() {
        List<Box> projects = new ArrayList<>();
        for (Path folder : reach.projectFolders()) {
            List<Box> inside = new ArrayList<>();
            for (Path scene : scenes) {
                if (scene.startsWith(folder)) {
                    String name = folder.relativize(scene).toString().replace('\\', '/');
                    inside.add(new SceneBox().of(scene, name));
                }
            }
            if (!inside.isEmpty()) {
                projects.add(around(Kind.PROJECT, reach.name(folder), folder, inside));
            }
        }
        return around(Kind.PROJECTS, "All projects", Path.of(""), projects);
    }

    private static Box around(Kind kind, String name, Path path, List<Box> inside) {
        Amounts sum = inside.stream().map(Box::amounts).reduce(Amounts.NOTHING, Amounts::and);
        return new Box(kind, name, path, "", 1, sum, inside);
    }

    /** Weighs one scene. */
    private final class SceneBox {
        private final Set<Use> counted = new HashSet<>();
        private final Set<Path> files = new HashSet<>();

        /** What is being weighed with what it holds: files may refer to each other in a circle. */
        private final Set<Use> underWay = new HashSet<>();

        Box of(Path scene, String name) {
            underWay.add(Use.ofFile(scene));
            List<Box> inside = new ArrayList<>();
            inside.add(own(scene, 1));
            inside.addAll(boxes(usesOf(scene), 1));
            return around(Kind.SCENE, name, scene, inside);
        }

        /**
         * The boxes of what is used directly, others within them.
         *
         * @param total how often each is used, through all levels
         * @param times how often what uses them stands there itself
         */
        private List<Box> boxes(Map<Use, Long> total, long times) {
            Map<Use, Long> left = new LinkedHashMap<>(total);
            List<Box> boxes = new ArrayList<>();
            // Those that hold most come first: nothing holds what it is itself within.
            List<Use> order = total.keySet().stream()
                    .sorted(Comparator.comparingInt((Use use) -> -partsOf(use).size())
                            .thenComparing(use -> use.target().toString())
                            .thenComparing(Use::version))
                    .toList();
            for (Use use : order) {
                long direct = Objects.requireNonNull(left.get(use));
                if (direct <= 0 || underWay.contains(use)) {
                    continue;
                }
                Map<Use, Long> within = new LinkedHashMap<>();
                underWay.add(use);
                partsOf(use).forEach((part, count) -> {
                    long taken = Math.min(left.getOrDefault(part, 0L), direct * count);
                    if (taken > 0 && !underWay.contains(part)) {
                        left.merge(part, -taken, Long::sum);
                        within.put(part, count);
                    }
                });
                boxes.add(box(use, direct * times, within));
                underWay.remove(use);
            }
            boxes.sort(Comparator.comparing(Box::name, NaturalOrder.BY_NAME).thenComparing(Box::version));
            return boxes;
        }

        private Box box(Use use, long count, Map<Use, Long> within) {
            List<Box> inside = new ArrayList<>();
            if (use.isOfAsset()) {
                Amounts own = amounts(use, count);
                inside.addAll(boxes(within, count));
                Amounts sum = inside.stream().map(Box::amounts).reduce(own, Amounts::and);
                String name = reach.asset(use.target())
                        .map(asset -> asset.card().name())
                        .orElse(String.valueOf(use.target().getFileName()));
                return new Box(Kind.ASSET, name, use.target(), use.version(), count, sum, inside);
            }
            inside.add(own(use.target(), count));
            inside.addAll(boxes(within, count));
            Amounts sum = inside.stream().map(Box::amounts).reduce(Amounts.NOTHING, Amounts::and);
            return new Box(Kind.FILE, String.valueOf(use.target().getFileName()), use.target(), "", count, sum, inside);
        }

        private Amounts amounts(Use use, long count) {
            AssetWeights.Content content = content(use);
            boolean first = counted.add(use);
            return amounts(
                    first ? content.stored() : 0, content.drawn() * count, count, content.layers(), content.images());
        }

        private Amounts amounts(long stored, long drawn, long placements, Set<Path> layers, Set<Path> pictures) {
            List<Path> fresh = firstTime(pictures);
            return new Amounts(
                    stored,
                    drawn,
                    placements,
                    fresh.stream().mapToLong(ProjectWeight.this::memory).sum(),
                    Stream.concat(firstTime(layers).stream(), fresh.stream())
                            .mapToLong(ProjectWeight::bytes)
                            .sum());
        }

        /** What a file has by itself, with the layers below it. */
        private Box own(Path file, long count) {
            Set<Path> layers = new HashSet<>();
            withSubLayers(file, layers);
            Set<Path> pictures = new HashSet<>();
            layers.forEach(layer -> pictures.addAll(images.getOrDefault(layer, Set.of())));
            boolean first = counted.add(Use.ofFile(file));
            long triangles = layers.stream().mapToLong(ProjectWeight::triangles).sum();
            Amounts amounts = amounts(first ? triangles : 0, triangles * count, 0, layers, pictures);
            return new Box(Kind.OWN, "Of its own", file, "", count, amounts, List.of());
        }

        private List<Path> firstTime(Set<Path> all) {
            return all.stream().filter(files::add).toList();
        }
    }

    private void withSubLayers(Path file, Set<Path> found) {
        if (found.add(file)) {
            subLayers.getOrDefault(file, Set.of()).forEach(sub -> withSubLayers(sub, found));
        }
    }

    private static long bytes(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            // A file that is gone weighs nothing.
            return 0;
        }
    }

    /** The triangles that a layer defines itself, outside of variants. */
    private static long triangles(Path file) {
        try {
            Layer layer = LayerFiles.read(file);
            return layer.rootPrims().stream()
                    .mapToLong(ProjectWeight::triangles)
                    .sum();
        } catch (PantryException e) {
            return 0;
        }
    }

    private static long triangles(PrimSpec prim) {
        if (prim.specifier() != Specifier.DEF
                || prim.metadata().get("active") instanceof Value.Bool(boolean active) && !active) {
            return 0;
        }
        long sum = 0;
        if (prim.attribute("faceVertexCounts").flatMap(AttributeSpec::value).orElse(null)
                instanceof Value.Ints(int[] sizes, int width)) {
            for (int size : sizes) {
                sum += Math.max(0, size - 2);
            }
        }
        for (PrimSpec child : prim.children()) {
            sum += triangles(child);
        }
        return sum;
    }

    /** The asset that a box stands for. */
    public Optional<Asset> asset(Box box) {
        return box.kind() == Kind.ASSET ? reach.asset(box.path()) : Optional.empty();
    }
}
