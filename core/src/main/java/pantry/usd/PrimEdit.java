package pantry.usd;

import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * A change of one prim spec with everything below it, which can be taken back exactly: the spec before and after, and
 * its place among its siblings.
 */
public final class PrimEdit {
    private final SdfPath path;
    private final @Nullable PrimSpec before;
    private final @Nullable PrimSpec after;
    private final int position;

    private PrimEdit(SdfPath path, @Nullable PrimSpec before, @Nullable PrimSpec after, int position) {
        this.path = path;
        this.before = before;
        this.after = after;
        this.position = position;
    }

    /** Adds a prim as the last child of an existing one. */
    public static PrimEdit add(Layer layer, SdfPath parent, PrimSpec prim) {
        PrimSpec owner = existing(layer, parent);
        if (owner.child(prim.name()).isPresent()) {
            throw new UsdException("there is already a prim at " + parent.child(prim.name()));
        }
        return new PrimEdit(
                parent.child(prim.name()), null, prim.copy(), owner.children().size());
    }

    /** Removes an existing prim. */
    public static PrimEdit remove(Layer layer, SdfPath path) {
        PrimSpec before = existing(layer, path);
        return new PrimEdit(
                path, before.copy(), null, existing(layer, path.parent()).position(path.name()));
    }

    /** Changes an existing prim. */
    public static PrimEdit change(Layer layer, SdfPath path, Consumer<PrimSpec> change) {
        PrimSpec before = existing(layer, path);
        PrimSpec after = before.copy();
        change.accept(after);
        return new PrimEdit(
                path, before.copy(), after, existing(layer, path.parent()).position(path.name()));
    }

    private static PrimSpec existing(Layer layer, SdfPath path) {
        return layer.prim(path)
                .orElseThrow(() -> new UsdException(layer.name(), path.toString(), "there is no such prim", null));
    }

    public SdfPath path() {
        return path;
    }

    /** Does it; the layer must be as it was when the edit was made. */
    public void apply(Layer layer) {
        replace(layer, Optional.ofNullable(after));
    }

    /** Takes it back; the layer must be as the edit left it. */
    public void revert(Layer layer) {
        replace(layer, Optional.ofNullable(before));
    }

    private void replace(Layer layer, Optional<PrimSpec> spec) {
        PrimSpec parent = existing(layer, path.parent());
        parent.removeChild(path.name());
        spec.ifPresent(prim -> parent.insert(position, prim.copy()));
    }
}
