/** Layers in files of any of the standard's formats: {@link pantry.usd.file.LayerFiles}. */
@NullMarked
package pantry.usd.file;

import org.jspecify.annotations.NullMarked;
