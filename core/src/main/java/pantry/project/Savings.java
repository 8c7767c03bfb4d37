package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.ImageDecoder;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.prep.tools.Proxy;
import pantry.project.ProjectWeight.Measure;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.twins.Twins;

/** What would make the scenes of projects lighter, and by how much. */
public final class Savings {
    /** Textures need no more pixels than these along a side for what is not looked at from close by (common practice). */
    private static final int ENOUGH_PIXELS = 2048;

    /** So many ways are told. */
    public static final int MOST = 10;

    /** Of so many of the heaviest assets it is worked out what a simpler stand-in would weigh. */
    private static final int TRIED = 5;

    /** What a stand-in may differ by, as a share of the asset's size. */
    private static final double STAND_IN = 0.01;

    private final ProjectWeight weight;
    private final Reach reach;
    private final AssetWeights weights;
    private final Progress progress;
    private final List<Saving> found = new ArrayList<>();

    /** A way to make scenes lighter. */
    public enum Kind {
        /** The asset has a proxy, which far placements can be shown by. */
        USE_PROXY("show far ones by the proxy"),
        /** The asset has none; one is made in Prep. */
        MAKE_PROXY("make a proxy for far ones"),
        /** Meshes within the asset are alike, and can be instances of one. */
        SHARE_TWINS("share the meshes that are alike"),
        /** Copies of an asset in scenes become placements of it. */
        PLACE_COPIES("place the asset instead of copies"),
        /** Scenes hold several versions of it. */
        ONE_VERSION("use one version only"),
        /** Its textures have more pixels than are seen. */
        SMALLER_TEXTURES("halve textures down to " + ENOUGH_PIXELS + " pixels");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        /** What is to be done, for a person. */
        public String words() {
            return words;
        }
    }

    /**
     * What one way saves in all scenes together.
     *
     * @param version the one that is used now
     * @param scenes in which
     * @param share of what all scenes weigh in that measure, 0 to 1
     */
    public record Saving(
            Kind kind, Asset asset, String version, List<Path> scenes, Measure measure, long saved, double share) {
        public Saving {
            scenes = List.copyOf(scenes);
        }
    }

    private Savings(ProjectWeight weight, Reach reach, AssetWeights weights, Progress progress) {
        this.weight = weight;
        this.reach = reach;
        this.weights = weights;
        this.progress = progress;
    }

    /** The ways that save most, by their share of what they save of; at most {@value #MOST}. */
    public static List<Saving> of(ProjectWeight weight, Reach reach, AssetWeights weights, Progress progress) {
        return new Savings(weight, reach, weights, progress).most();
    }

    private List<Saving> most() {
        Map<Use, Long> placements = weight.placements();
        placements.forEach(this::proxies);
        List<Use> heaviest = placements.keySet().stream()
                .sorted(Comparator.comparingLong(
                        (Use use) -> -weight.content(use).drawn() * placements.getOrDefault(use, 0L)))
                .limit(TRIED)
                .toList();
        heaviest.forEach(use -> standIn(use, placements.getOrDefault(use, 0L)));
        placements.keySet().stream()
                .sorted(Comparator.comparingLong(
                        (Use use) -> -weight.content(use).stored()))
                .limit(2L * TRIED)
                .forEach(this::twins);
        placements.keySet().forEach(this::textures);
        versions(placements);
        copies();
        return found.stream()
                .filter(saving -> saving.saved() > 0)
                .sorted(Comparator.comparingDouble((Saving saving) -> -saving.share()))
                .limit(MOST)
                .toList();
    }

    private void add(Kind kind, Use use, List<Path> scenes, Measure measure, long saved) {
        long all = weight.whole().amounts().of(measure);
        reach.asset(use.target())
                .ifPresent(asset -> found.add(new Saving(
                        kind, asset, use.version(), scenes, measure, saved, all > 0 ? (double) saved / all : 0)));
    }

    private void proxies(Use use, long placements) {
        AssetWeights.Content content = weight.content(use);
        add(
                Kind.USE_PROXY,
                use,
                weight.scenesWith(use),
                Measure.DRAWN,
                (content.drawn() - content.light()) * placements);
    }

    private Optional<Model> model(Use use) {
        return reach.asset(use.target()).flatMap(asset -> weights.model(asset, use.version()));
    }

    private void standIn(Use use, long placements) {
        AssetWeights.Content content = weight.content(use);
        if (content.light() < content.drawn() || content.drawn() == 0) {
            return;
        }
        model(use).filter(model -> !model.bounds().isEmpty()).ifPresent(model -> {
            progress.step("trying a stand-in for " + use.target().getFileName(), -1);
            double metres = STAND_IN * model.bounds().size().length();
            long stands =
                    Proxy.within(model, metres, progress.withoutSteps()).mesh().triangleCount();
            add(Kind.MAKE_PROXY, use, weight.scenesWith(use), Measure.DRAWN, (content.drawn() - stands) * placements);
        });
    }

    private void twins(Use use) {
        if (weight.content(use).stored() == 0) {
            return;
        }
        model(use).ifPresent(model -> {
            progress.step("comparing the meshes of " + use.target().getFileName(), -1);
            List<Twins.Surface> surfaces = model.meshes().stream()
                    .map(mesh -> new Twins.Surface(mesh, true, 1))
                    .toList();
            long saved = 0;
            for (TwinGroup group : Twins.find(surfaces, TwinOptions.USUAL, progress.withoutSteps())) {
                saved += group.triangles(true);
            }
            List<Path> scenes = weight.scenesWith(use);
            add(Kind.SHARE_TWINS, use, scenes, Measure.STORED, saved * scenes.size());
        });
    }

    private void textures(Use use) {
        long saved = 0;
        for (Path image : weight.content(use).images()) {
            saved += ImageDecoder.size(image)
                    .map(size -> weight.memory(image) - weight.memory(image) / shrunk(Math.max(size[0], size[1])))
                    .orElse(0L);
        }
        List<Path> scenes = weight.scenesWith(use);
        add(Kind.SMALLER_TEXTURES, use, scenes, Measure.TEXTURES, saved * scenes.size());
    }

    /** By how much an image becomes smaller when it is halved until it is small enough. */
    private static long shrunk(int pixels) {
        long factor = 1;
        for (int side = pixels; side > ENOUGH_PIXELS; side = (side + 1) / 2) {
            factor *= 4;
        }
        return factor;
    }

    private void versions(Map<Use, Long> placements) {
        Map<Path, List<Use>> byAsset = new HashMap<>();
        placements.keySet().forEach(use -> byAsset.computeIfAbsent(use.target(), folder -> new ArrayList<>())
                .add(use));
        byAsset.forEach((folder, versions) -> {
            String newest = versions.stream()
                    .map(Use::version)
                    .max(Comparator.naturalOrder())
                    .orElse("");
            List<Path> both = new ArrayList<>();
            long saved = 0;
            for (Use use : versions) {
                if (!use.version().equals(newest)) {
                    List<Path> scenes = weight.scenesWith(use).stream()
                            .filter(weight.scenesWith(new Use(folder, newest, false))::contains)
                            .toList();
                    both.addAll(scenes);
                    saved += weight.content(use).stored() * scenes.size();
                }
            }
            add(
                    Kind.ONE_VERSION,
                    new Use(folder, newest, false),
                    both.stream().distinct().toList(),
                    Measure.STORED,
                    saved);
        });
    }

    private void copies() {
        for (Strays.Group group : Strays.find(reach, progress)) {
            Use use = AssetWeights.key(group.asset().folder(), group.version());
            Map<Path, Integer> inFiles = new LinkedHashMap<>();
            group.copies().stream()
                    .filter(copy -> weight.scenes().contains(copy.file()))
                    .forEach(copy -> inFiles.merge(copy.file(), 1, Integer::sum));
            long stored = model(use).map(Model::trianglesDrawn).orElse(0L);
            // One of each scene is the asset itself, unless it stands there already.
            long saved = inFiles.entrySet().stream()
                    .mapToLong(each ->
                            stored * (each.getValue() - (weight.scenesWith(use).contains(each.getKey()) ? 0 : 1)))
                    .sum();
            add(Kind.PLACE_COPIES, use, List.copyOf(inFiles.keySet()), Measure.STORED, saved);
        }
    }
}
