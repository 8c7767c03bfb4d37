package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * What an asset is made of besides its own files: other assets, each through a small layer in its folder {@code uses/}.
 * Sealed versions reference those layers; so they need never change, although the layers are rewritten whenever
 * something moves.
 */
public final class Uses {
    static final String FOLDER = "uses";

    private Uses() {}

    /**
     * An asset that another one uses.
     *
     * @param stub the layer through which it does
     * @param id the used asset's
     * @param version the one it is pinned to; empty where it follows
     * @param target the layer that is used
     */
    public record Use(Path stub, String id, String version, Path target) {
        /** Whether what is used is where the stub says. */
        public boolean found() {
            return Files.exists(target);
        }
    }

    /** Whether an asset's folder says that it uses others. */
    public static boolean any(Path assetFolder) {
        return Files.isDirectory(assetFolder.resolve(FOLDER));
    }

    /**
     * All that any version of an asset uses.
     *
     * @throws LibraryException where they cannot be read
     */
    public static List<Use> of(Path assetFolder) {
        List<Use> uses = new ArrayList<>();
        if (!any(assetFolder)) {
            return uses;
        }
        try (Stream<Path> files = Files.list(assetFolder.resolve(FOLDER))) {
            files.filter(file -> LayerFiles.isLayer(file.getFileName().toString()))
                    .sorted()
                    .forEach(stub -> read(stub).ifPresent(uses::add));
            return uses;
        } catch (IOException e) {
            throw new LibraryException(assetFolder.resolve(FOLDER), "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** What is used through a layer: where that is one of an asset's uses, what it leads to; otherwise that layer itself. */
    public static Path through(Path layer) {
        Path folder = layer.getParent();
        return folder != null && folder.endsWith(FOLDER)
                ? read(layer).map(Use::target).orElse(layer)
                : layer;
    }

    private static Optional<Use> read(Path stub) {
        try {
            return root(LayerFiles.read(stub)).flatMap(prim -> reference(prim)
                    .map(reference -> new Use(
                            stub,
                            info(prim, "identifier"),
                            info(prim, "version"),
                            stub.resolveSibling(reference.asset()).normalize())));
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    private static Optional<PrimSpec> root(Layer layer) {
        return layer.defaultPrim().flatMap(root -> layer.prim(SdfPath.ROOT.child(root)));
    }

    private static Optional<Reference> reference(PrimSpec prim) {
        return prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                ? edit.applyTo(List.of()).stream().findFirst()
                : Optional.empty();
    }

    private static String info(PrimSpec prim, String key) {
        return prim.metadata().get("assetInfo") instanceof Value.Dictionary info
                        && info.entries().get(key) != null
                        && info.entries().get(key).value() instanceof Value.Text text
                ? text.value()
                : "";
    }

    /**
     * Where the folder of an asset that gets a version is being made: a new asset where its version is; another one stands
     * already.
     *
     * @param standing where it will stand
     * @param data of the version
     */
    public static Path building(Path standing, Path data) {
        return Files.isDirectory(standing) ? standing : data.getParent().getParent();
    }

    /**
     * Makes the layer through which an asset uses another one.
     *
     * @param user the using asset's folder, as it will stand
     * @param building where that folder is being made; the same where it stands already
     * @param version pinned to; empty to follow
     * @return the reference for a layer in a version's {@code data} folder
     */
    public static String link(Path user, Path building, Asset used, Optional<String> version) throws IOException {
        String pinned = version.orElse("");
        Path folder = Files.createDirectories(building.resolve(FOLDER));
        String wanted = used.slug() + (pinned.isEmpty() ? "" : "-" + pinned);
        String name = Names.free(wanted, "-", taken -> {
            Path file = folder.resolve(taken + ".usda");
            return Files.exists(file)
                    && read(file)
                            .filter(use -> use.id().equals(used.card().id())
                                    && use.version().equals(pinned))
                            .isEmpty();
        });
        Path target = version.map(used::entryLayer).orElse(used.readyLayer());
        write(
                folder.resolve(name + ".usda"),
                user.resolve(FOLDER),
                target,
                used.card().id(),
                pinned);
        return "../../" + FOLDER + "/" + name + ".usda";
    }

    private static void write(Path stub, Path standing, Path target, String id, String version) {
        String root = LayerFiles.read(target)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(target, "the layer has no default prim"));
        Layer layer = Layer.inMetres(stub, root);
        PrimSpec prim = layer.root().define("", root);
        prim.setReferences(Reference.to(Redirects.slashed(standing.relativize(target))));
        java.util.LinkedHashMap<String, Value.Dictionary.Entry> info = new java.util.LinkedHashMap<>();
        info.put("identifier", new Value.Dictionary.Entry("string", new Value.Text(id)));
        if (!version.isEmpty()) {
            info.put("version", new Value.Dictionary.Entry("string", new Value.Text(version)));
        }
        prim.metadata().put("assetInfo", new Value.Dictionary(info));
        LayerFiles.write(layer, stub);
    }

    /** Makes the layer of a use for a copy of the using asset. */
    static void copy(Use use, Path building, Path standing, Asset used) throws IOException {
        Path folder = Files.createDirectories(building.resolve(FOLDER));
        Path target = use.version().isEmpty() || !used.versions().contains(use.version())
                ? used.readyLayer()
                : used.entryLayer(use.version());
        write(
                folder.resolve(use.stub().getFileName()),
                standing.resolve(FOLDER),
                target,
                used.card().id(),
                use.version());
    }

    /** Writes a use's layer anew, so that it leads to where the used asset stands now. */
    static void relink(Use use, Asset used) {
        Path target = use.version().isEmpty() ? used.readyLayer() : used.entryLayer(use.version());
        write(use.stub(), use.stub().getParent(), target, used.card().id(), use.version());
    }

    /**
     * Rewrites the layers of all uses that something which was moved takes part in.
     *
     * @param folders all assets' folders as they are now
     * @param moves new places by old ones, of assets or whole shelves
     */
    static void mend(List<Path> folders, Map<Path, Path> moves) {
        for (Path folder : folders) {
            if (!any(folder)) {
                continue;
            }
            Path before = changed(folder, inverse(moves));
            for (Use use : of(folder)) {
                if (!before.equals(folder) && leadsToItsAsset(use)) {
                    // Mended already.
                    continue;
                }
                Path stood = before.resolve(FOLDER);
                Path told = use.stub().getParent().relativize(use.target());
                Path target = changed(stood.resolve(told).normalize(), moves);
                if (!target.equals(use.target()) && Files.exists(target)) {
                    write(use.stub(), use.stub().getParent(), target, use.id(), use.version());
                }
            }
        }
    }

    private static boolean leadsToItsAsset(Use use) {
        for (Path at = use.target(); at != null && use.found(); at = at.getParent()) {
            if (Files.exists(at.resolve(LibraryLayout.CARD))) {
                try {
                    return Json.read(at.resolve(LibraryLayout.CARD), Card.class)
                            .id()
                            .equals(use.id());
                } catch (PantryException e) {
                    return false;
                }
            }
        }
        return false;
    }

    private static Map<Path, Path> inverse(Map<Path, Path> moves) {
        return moves.entrySet().stream()
                .collect(java.util.stream.Collectors.toMap(Map.Entry::getValue, Map.Entry::getKey));
    }

    private static Path changed(Path path, Map<Path, Path> moves) {
        for (Map.Entry<Path, Path> move : moves.entrySet()) {
            if (path.startsWith(move.getKey())) {
                return move.getValue()
                        .resolve(move.getKey().relativize(path).toString())
                        .normalize();
            }
        }
        return path;
    }
}
