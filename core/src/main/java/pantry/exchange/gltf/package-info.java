/** Reading and writing glTF 2.0. */
@NullMarked
package pantry.exchange.gltf;

import org.jspecify.annotations.NullMarked;
