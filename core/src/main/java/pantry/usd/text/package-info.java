/** The text format of layers ({@code .usda}): {@link UsdaReader} and {@link UsdaWriter}. */
@NullMarked
package pantry.usd.text;

import org.jspecify.annotations.NullMarked;
