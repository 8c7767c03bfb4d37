package pantry.exchange.usd;

import java.util.Map;
import java.util.WeakHashMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Mesh;

/**
 * Meshes by the arrays that they were made of, so that opening a stage anew makes no mesh anew. Holds neither arrays
 * nor meshes that nobody else uses. Safe for use by several threads.
 */
public final class MeshCache {
    private final Map<Arrays, java.lang.ref.WeakReference<Mesh>> meshes = new WeakHashMap<>();

    /** Compared by identity, array by array. Lives as long as the mesh, which holds it. */
    private static final class Arrays {
        private final @Nullable Object[] parts;

        Arrays(@Nullable Object... parts) {
            this.parts = parts;
        }

        @Override
        public boolean equals(Object o) {
            if (!(o instanceof Arrays other) || other.parts.length != parts.length) {
                return false;
            }
            for (int i = 0; i < parts.length; i++) {
                if (parts[i] != other.parts[i]) {
                    return false;
                }
            }
            return true;
        }

        @Override
        public int hashCode() {
            int hash = 0;
            for (Object part : parts) {
                hash = hash * 31 + System.identityHashCode(part);
            }
            return hash;
        }
    }

    private final Map<Mesh, Arrays> keys = new WeakHashMap<>();

    /** The mesh made of exactly these arrays before, or a new one. */
    synchronized Mesh get(Supplier<Mesh> make, @Nullable Object... arrays) {
        Arrays key = new Arrays(arrays);
        java.lang.ref.WeakReference<Mesh> reference = meshes.get(key);
        Mesh known = reference == null ? null : reference.get();
        if (known != null) {
            return known;
        }
        Mesh made = make.get();
        meshes.put(key, new java.lang.ref.WeakReference<>(made));
        keys.put(made, key);
        return made;
    }
}
