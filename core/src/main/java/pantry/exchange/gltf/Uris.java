package pantry.exchange.gltf;

import java.net.URI;
import java.net.URISyntaxException;

/** Relative paths as glTF writes them. */
final class Uris {
    private Uris() {}

    /** A relative path with what a URI cannot hold percent-encoded (RFC 3986). */
    static String encoded(String path) {
        try {
            return new URI(null, null, "./" + path, null).toASCIIString().substring(2);
        } catch (URISyntaxException e) {
            throw new IllegalArgumentException(path + " cannot be a relative URI", e);
        }
    }
}
