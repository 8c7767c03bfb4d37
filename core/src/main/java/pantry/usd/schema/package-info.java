/** What the standard's schemas mean: transforms, material bindings, surfaces. */
@NullMarked
package pantry.usd.schema;

import org.jspecify.annotations.NullMarked;
