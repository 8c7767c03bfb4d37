package pantry.usd;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A layer: metadata, sublayers and a tree of prim specs. Mutable; to be used by one thread at a time. */
public final class Layer extends Spec {
    private final @Nullable Path file;
    private final PrimSpec root = new PrimSpec(Specifier.DEF, "", "");
    private final List<SubLayer> subLayers = new ArrayList<>();

    /** A layer brought in by another, strongest first in {@link #subLayers()}. */
    public record SubLayer(String asset, LayerOffset offset) {}

    /** @param file where the layer lives, against which its asset paths are resolved; null while it is unsaved */
    public Layer(@Nullable Path file) {
        this.file = file == null ? null : file.toAbsolutePath().normalize();
    }

    /** A layer that lives nowhere yet. */
    public static Layer anonymous() {
        return new Layer(null);
    }

    /** A layer in Pantry's measure: metres, Y up. */
    public static Layer inMetres(@Nullable Path file, String defaultPrim) {
        Layer layer = new Layer(file);
        layer.metadata().put("defaultPrim", new Value.Text(defaultPrim));
        layer.metadata().put("metersPerUnit", new Value.Real(1));
        layer.metadata().put("upAxis", new Value.Text("Y"));
        return layer;
    }

    public Optional<Path> file() {
        return Optional.ofNullable(file);
    }

    /** The layer's name for a person. */
    public String name() {
        return file == null ? "unsaved layer" : file.toString();
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

    /** The spec at a prim path, which may lead through variants. */
    public Optional<PrimSpec> prim(SdfPath path) {
        if (path.equals(SdfPath.ROOT)) {
            return Optional.of(root);
        }
        if (path.toString().endsWith("}")) {
            String text = path.toString();
            int brace = text.lastIndexOf('{');
            int equals = text.indexOf('=', brace);
            return prim(path.parent())
                    .map(owner -> owner.variantSets().get(text.substring(brace + 1, equals)))
                    .map(set -> set.get(text.substring(equals + 1, text.length() - 1)))
                    .map(VariantSpec::contents);
        }
        return prim(path.parent()).flatMap(parent -> parent.child(path.name()));
    }
}
