/**
 * Composition: from layers to one stage.
 *
 * <p>{@link pantry.usd.compose.Stage} opens a layer and composes what it brings in; {@link
 * pantry.usd.compose.Prim} answers for one prim, strongest opinion first. Each prim has a {@link
 * pantry.usd.compose.PrimIndex}: the tree of sites that contribute to it, in the standard's order of strength (local,
 * inherits, variants, references, payloads, specializes). Children take over their parent's index, one name further
 * down, and add the arcs found there. Problems are collected and never stop the rest of the stage.
 */
@NullMarked
package pantry.usd.compose;

import org.jspecify.annotations.NullMarked;
