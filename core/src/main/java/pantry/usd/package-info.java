/**
 * OpenUSD: layers, values, paths and list edits.
 *
 * <p>{@link pantry.usd.Layer} is the model that {@link pantry.usd.text} reads and writes and that
 * {@link pantry.usd.compose} turns into stages. Names and semantics follow the AOUSD Core Specification 1.0. Nothing
 * here knows the rest of Pantry but {@code base}.
 */
@NullMarked
package pantry.usd;

import org.jspecify.annotations.NullMarked;
