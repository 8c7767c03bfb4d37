package pantry.exchange.usd;

import java.util.Optional;
import java.util.function.Function;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;

/** The asset paths of what a layer names, relative to it. */
public interface Links {
    /** Of an image; images that are not found are asked for too. */
    String image(Texture texture);

    /** Of a material part that is referenced; empty where it is written out instead. */
    Optional<String> part(ShaderNetwork.Part part);

    /** Links to images alone. */
    static Links ofImages(Function<Texture, String> images) {
        return new Links() {
            @Override
            public String image(Texture texture) {
                return images.apply(texture);
            }

            @Override
            public Optional<String> part(ShaderNetwork.Part part) {
                return Optional.empty();
            }
        };
    }
}
