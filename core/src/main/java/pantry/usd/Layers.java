package pantry.usd;

import java.nio.file.Path;

/** Where layers come from. A stage opens each layer once; implementations may share layers between stages. */
@FunctionalInterface
public interface Layers {
    /**
     * The layer of a file.
     *
     * @param file absolute and normalized
     * @throws UsdException where there is none or it cannot be read
     */
    Layer open(Path file);
}
