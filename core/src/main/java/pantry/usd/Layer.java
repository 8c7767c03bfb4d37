package pantry.usd;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A layer: metadata, sublayers and a tree of prim specs. Mutable; to be used by one thread at a time. */
public final class Layer extends Spec {
    private final @Nullable AssetLocation location;
    private final PrimSpec root = new PrimSpec(Specifier.DEF, "", "");
    private final List<SubLayer> subLayers = new ArrayList<>();

    /** A layer brought in by another, strongest first in {@link #subLayers()}. */
    public record SubLayer(String asset, LayerOffset offset) {}

    /** @param file where the layer lives, against which its asset paths are resolved; null while it is unsaved */
    public Layer(@Nullable Path file) {
        this.location = file == null ? null : AssetLocation.of(file);
    }

    /** @param location where the layer lives, which may be within a package */
    public Layer(AssetLocation location) {
        this.location = location;
    }

    /** A layer that lives nowhere yet. */
    public static Layer anonymous() {
        return new Layer((Path) null);
    }

    /** A layer in Pantry's measure: metres, Y up. */
    public static Layer inMetres(@Nullable Path file, String defaultPrim) {
        Layer layer = new Layer(file);
        layer.metadata().put("defaultPrim", new Value.Token(defaultPrim));
        layer.metadata().put("metersPerUnit", new Value.Real(1));
        layer.metadata().put("upAxis", new Value.Token("Y"));
        return layer;
    }

    /** Where the layer lives; empty while it is unsaved. */
    public Optional<AssetLocation> location() {
        return Optional.ofNullable(location);
    }

    /** The file that the layer is, or that holds it as a package. */
    public Optional<Path> file() {
        return location().map(AssetLocation::file);
    }

    /** The layer's name for a person. */
    public String name() {
        return location == null ? "unsaved layer" : location.toString();
    }

    /** The strongest first; live. */
    public List<SubLayer> subLayers() {
        return subLayers;
    }

    /** Holds the root prims as its children; nameless. */
    public PrimSpec root() {
        return root;
    }

    public Collection<PrimSpec> rootPrims() {
        return root.children();
    }

    public Optional<String> defaultPrim() {
        return text("defaultPrim");
    }

    /** The default prim's path; it may be written as a name or as a path. Empty where it is neither. */
    public Optional<SdfPath> defaultPrimPath() {
        return defaultPrim()
                .filter(name -> !name.isEmpty())
                .map(name -> name.startsWith("/") ? name : "/" + name)
                .filter(SdfPath::isWellFormed)
                .map(SdfPath::of);
    }

    /** The spec at a prim path, which may lead through variants. */
    public Optional<PrimSpec> prim(SdfPath path) {
        if (path.isRootPrim()) {
            return root.child(path.name());
        }
        PrimSpec at = root;
        for (SdfPath.Element element : path.elements()) {
            PrimSpec next =
                    switch (element) {
                        case SdfPath.Element.Child(String name) ->
                            at.child(name).orElse(null);
                        case SdfPath.Element.Variant(String set, String selection) -> {
                            VariantSpec variant =
                                    at.variantSets().getOrDefault(set, Map.of()).get(selection);
                            yield variant == null ? null : variant.contents();
                        }
                    };
            if (next == null) {
                return Optional.empty();
            }
            at = next;
        }
        return Optional.of(at);
    }

    /** Whether the other layer says exactly the same, wherever it lives. Lazy values are read for it. */
    public boolean sameAs(Layer other) {
        return sameMetadata(other) && subLayers.equals(other.subLayers) && root.sameAs(other.root);
    }
}
