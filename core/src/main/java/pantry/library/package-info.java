/**
 * Libraries on disk: shelves of assets with sealed versions, cards and a journal.
 *
 * <p>Plain folders are the truth. A version is a BagIt bag that never changes once it stands in its place; it is built
 * in {@code incoming/} and renamed there in one step. Cards are replaced whole. Whoever stops at any moment leaves at
 * most rubbish in {@code incoming/}.
 */
@NullMarked
package pantry.library;

import org.jspecify.annotations.NullMarked;
