package pantry.usecase;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.exchange.FileReaders;
import pantry.exchange.usd.UsdModelReader;
import pantry.intake.Intake;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Owner;
import pantry.library.Published;
import pantry.library.Uses;
import pantry.library.VersionInfo;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.Texture;
import pantry.shading.NetworkBaker;
import pantry.shading.PartMix;
import pantry.shading.PartOutputs;
import pantry.shading.PreviewNetwork;
import pantry.usd.Layer;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/**
 * Mixes material parts of a library into its materials, which reference them from then on, and makes materials anew whose
 * parts have changed.
 */
public final class MixParts {
    private final Intake intake;
    private final FileReaders readers;
    private final Library library;

    public MixParts(Intake intake, FileReaders readers, Library library) {
        this.intake = intake;
        this.readers = readers;
        this.library = library;
    }

    /**
     * A part that is mixed into a material.
     *
     * @param name what it is called in the material's network
     * @param asset that it is; empty where the library does not have it
     * @param amount how much of it shows, 0 to 1; empty where it is not mixed in by Pantry
     * @param masked whether that is where a mask says
     * @param by the name of another part whose mask that is, and the asset that it is; empty where it is its own
     */
    public record Mixed(
            String name, Optional<Asset> asset, Optional<Double> amount, boolean masked, Optional<Mask> by) {}

    /** A part of whose outputs only the mask is used. */
    public record Mask(String name, Optional<Asset> asset) {}

    /** A change of what is mixed into the materials of an asset. */
    public sealed interface Change {
        /**
         * Mixes a part in, over what is there; of one that is mixed in already, changes how much shows.
         *
         * @param amount 0 to 1
         * @param masked whether it shows where a mask says, if there is one
         * @param by the part whose mask that is; empty for its own
         */
        record In(Asset part, double amount, boolean masked, Optional<Asset> by) implements Change {
            public In(Asset part, double amount, boolean masked) {
                this(part, amount, masked, Optional.empty());
            }
        }

        /** Takes a part out. */
        record Out(Asset part) implements Change {}

        /** Changes nothing: the images are made once more of what the parts are now. */
        record Anew() implements Change {}
    }

    /**
     * A material as it would be.
     *
     * @param model balls that show it
     * @param told what cannot be shown of it
     */
    public record Outcome(Model model, List<String> told) {}

    /** The parts that are mixed into an asset's materials, the lowest first. */
    public List<Mixed> parts(Asset material) {
        Map<String, Mixed> parts = new LinkedHashMap<>();
        for (Material each : materialsOf(material).materials()) {
            each.network().ifPresent(network -> {
                Set<String> masks = masks(network);
                network.parts().forEach((name, graph) -> {
                    if (!masks.contains(name)) {
                        parts.putIfAbsent(name, mixed(network, name, graph));
                    }
                });
            });
        }
        // A network is read from its surface on.
        return List.copyOf(parts.values()).reversed();
    }

    private static Set<String> masks(ShaderNetwork network) {
        return network.parts().keySet().stream()
                .flatMap(name -> PartMix.maskedBy(network, name).stream())
                .collect(Collectors.toSet());
    }

    private Mixed mixed(ShaderNetwork network, String name, Graph graph) {
        Optional<Mask> by = PartMix.maskedBy(network, name)
                .map(mask -> new Mask(
                        mask, Optional.ofNullable(network.parts().get(mask)).flatMap(this::owner)));
        return new Mixed(name, owner(graph), PartMix.amount(network, name), PartMix.isMasked(network, name), by);
    }

    /**
     * What of a library can be mixed into materials.
     *
     * @param parts those that have something for a surface, and whether each says by a mask where it shows
     * @param masks those that have a mask, by which others can show
     */
    public record Available(Map<Asset, Boolean> parts, List<Asset> masks) {
        public static final Available NOTHING = new Available(Map.of(), List.of());
    }

    /** What can be mixed in. */
    public Available available() {
        Map<Asset, Boolean> parts = new LinkedHashMap<>();
        List<Asset> masks = new ArrayList<>();
        for (Asset asset : library.assets()) {
            if (asset.card().kind() == AssetKind.MATERIAL_PART && asset.ready().isPresent()) {
                outputs(asset).ifPresent(outputs -> {
                    if (!outputs.bySlot().isEmpty()) {
                        parts.put(asset, outputs.mask().isPresent());
                    }
                    if (outputs.mask().isPresent()) {
                        masks.add(asset);
                    }
                });
            }
        }
        return new Available(parts, masks);
    }

    /** Empty where the part cannot be read, which its own card tells. */
    private Optional<PartOutputs> outputs(Asset part) {
        try {
            return Optional.of(PartOutputs.of(graphOf(part)));
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /** The materials of the library in which a part is mixed. */
    public List<Asset> usersOf(Asset part) {
        return library.assets().stream()
                .filter(asset -> asset.card().kind() == AssetKind.MATERIAL)
                .filter(asset -> Uses.of(asset.folder()).stream()
                        .anyMatch(use -> use.id().equals(part.card().id())))
                // A version that has it no longer leaves the layer by which an earlier one used it.
                .filter(asset -> has(asset, part))
                .toList();
    }

    /** One that cannot be read may have it; making it anew tells why that cannot be done. */
    private boolean has(Asset material, Asset part) {
        try {
            return parts(material).stream().anyMatch(mixed -> isOf(mixed, part));
        } catch (PantryException e) {
            return true;
        }
    }

    private static boolean isOf(Mixed mixed, Asset part) {
        return Stream.concat(mixed.asset().stream(), mixed.by().flatMap(Mask::asset).stream())
                .filter(asset -> asset.card().id().equals(part.card().id()))
                .findAny()
                .isPresent();
    }

    /** Of the materials in which a part is mixed, those that were made before its ready version. */
    public List<Asset> outdatedBy(Asset part) {
        Optional<String> when = part.ready().map(version -> whenMade(part, version));
        return when.isEmpty()
                ? List.of()
                : usersOf(part).stream()
                        .filter(user -> user.shown()
                                .filter(version -> whenMade(user, version).compareTo(when.get()) < 0)
                                .isPresent())
                        .toList();
    }

    /** A time as ISO 8601 has it, in UTC. */
    private String whenMade(Asset asset, String version) {
        return library.history(asset).stream()
                .filter(each -> each.version().equals(version))
                .map(VersionInfo::when)
                .findFirst()
                .orElse("");
    }

    /**
     * What an asset's materials would be.
     *
     * @param size of the images that are made, pixels
     * @throws PantryException where it is no material, or the part cannot be mixed in
     */
    public Outcome outcome(Asset material, Change change, int size, Progress progress) {
        Model model = materialsOf(material);
        Set<String> told = new LinkedHashSet<>();
        Map<Material, Material> made = new LinkedHashMap<>();
        try {
            Path folder = Scratch.folder("baked");
            UnaryOperator<ShaderNetwork> edit = edit(change);
            for (Material each : model.materials()) {
                progress.step("making the images of " + each.title(), -1);
                ShaderNetwork network = edit.apply(each.network().orElseGet(() -> PreviewNetwork.of(each)));
                NetworkBaker.Baked baked =
                        NetworkBaker.bake(each.name(), network, size, Long.MAX_VALUE, () -> folder, progress);
                told.addAll(baked.told());
                made.put(each, finished(baked.material().with(network), each));
            }
        } catch (IOException e) {
            throw new PantryException(material.folder(), "its images cannot be written: " + IoProblems.describe(e));
        }
        return new Outcome(model.withMaterials(each -> made.getOrDefault(each, each)), List.copyOf(told));
    }

    /** What no network says of a surface stays as it was. */
    private static Material finished(Material made, Material before) {
        Material kept = made;
        for (Material.Slot slot : List.of(Material.Slot.OCCLUSION, Material.Slot.DISPLACEMENT)) {
            Optional<Texture> image = before.texture(slot);
            kept = image.isPresent() ? kept.with(slot, image.get()) : kept;
        }
        return kept.withCutoff(before.finish().cutoff());
    }

    /**
     * Publishes what an asset's materials become, as its next version.
     *
     * @throws LibraryException where somebody else has reserved it
     */
    public Published publish(NextVersion version, Change change, Progress progress) {
        Asset asset = library.current(version.asset());
        library.reservations().requireFree(asset);
        Outcome outcome = outcome(asset, change, NetworkBaker.USUAL_SIZE, progress.part(0, 0.5));
        Slip slip = Slip.plain(asset.card().name(), AssetKind.MATERIAL, asset.shelf(), 1, Axis.Y);
        return intake.publish(
                outcome.model(),
                slip,
                new Intake.Next(asset, version.status(), version.note()),
                library,
                progress.part(0.5, 1));
    }

    /**
     * Publishes the materials anew that use a part, with images of what it is now.
     *
     * @return what was published, and what was not with the reason
     */
    public Remade remake(Asset part, Progress progress) {
        List<Asset> users = usersOf(part);
        List<Published> made = new ArrayList<>();
        List<String> left = new ArrayList<>();
        String version = library.current(part).ready().orElse("");
        for (int i = 0; i < users.size(); i++) {
            Asset user = users.get(i);
            Progress own = progress.part((double) i / users.size(), (double) (i + 1) / users.size());
            try {
                NextVersion next = new NextVersion(
                        user, VersionStatus.READY, "with " + part.card().name() + " " + version);
                made.add(publish(next, new Change.Anew(), own));
            } catch (PantryException e) {
                left.add(user.card().name() + ": " + e.getMessage());
            }
        }
        return new Remade(made, left);
    }

    /** Materials that were made anew, and what was not, with the reasons. */
    public record Remade(List<Published> made, List<String> left) {}

    private UnaryOperator<ShaderNetwork> edit(Change change) {
        return switch (change) {
            case Change.Anew() -> network -> network;
            case Change.Out(Asset part) -> network -> without(network, part);
            case Change.In(Asset part, double amount, boolean masked, Optional<Asset> by) -> {
                PartMix.Named named = named(part);
                PartMix.Where where = masked
                        ? by.<PartMix.Where>map(mask -> new PartMix.Where.MaskOf(named(mask)))
                                .orElseGet(PartMix.Where.OwnMask::new)
                        : new PartMix.Where.Everywhere();
                yield network -> {
                    try {
                        return PartMix.mixed(without(network, part), named, amount, where);
                    } catch (IllegalArgumentException e) {
                        throw new PantryException(part.readyLayer(), String.valueOf(e.getMessage()));
                    }
                };
            }
        };
    }

    private PartMix.Named named(Asset part) {
        return new PartMix.Named(Names.identifier(part.card().name()), graphOf(part));
    }

    private ShaderNetwork without(ShaderNetwork network, Asset part) {
        ShaderNetwork rest = network;
        for (Map.Entry<String, Graph> each : network.parts().entrySet()) {
            boolean isIt = owner(each.getValue())
                    .filter(asset -> asset.card().id().equals(part.card().id()))
                    .isPresent();
            if (isIt && PartMix.amount(network, each.getKey()).isPresent()) {
                rest = PartMix.without(rest, each.getKey());
            }
        }
        return rest;
    }

    private Optional<Asset> owner(Graph graph) {
        return graph.part()
                .flatMap(part -> library.owner(Uses.through(part.layer())))
                .map(Owner::asset);
    }

    private Graph graphOf(Asset part) {
        Path file = part.readyLayer();
        if (part.card().kind() != AssetKind.MATERIAL_PART) {
            throw new LibraryException(
                    part.folder(),
                    "is no material part, but a " + part.card().kind().word());
        }
        if (part.ready().isEmpty()) {
            throw new LibraryException(part.folder(), "has no ready version to mix in");
        }
        LayerCache layers = new LayerCache(readers.gate(file));
        Layer layer = layers.open(file);
        Stage stage = Stage.open(layer, layers);
        return UsdModelReader.part(stage)
                .map(prim -> UsdModelReader.graph(stage, prim).from(file))
                .orElseThrow(() -> new PantryException(file, "holds no group of nodes"));
    }

    /** The balls that show an asset's materials, without the prim around them. */
    private Model materialsOf(Asset asset) {
        if (asset.card().kind() != AssetKind.MATERIAL) {
            throw new LibraryException(
                    asset.folder(),
                    "is no material to mix something into, but a "
                            + asset.card().kind().word());
        }
        String version = asset.shown().orElseThrow(() -> new LibraryException(asset.folder(), "has no version"));
        Model read = readers.read(asset.entryLayer(version), Progress.NONE).model();
        List<Model.Node> balls = read.roots().stream()
                .flatMap(root -> root.parts().isEmpty() ? root.children().stream() : Stream.of(root))
                .toList();
        return new Model(asset.card().name(), balls, Model.Extras.NONE);
    }
}
