/** The live view: a scene drawn by the core, turned and picked with the mouse and the keys. */
@NullMarked
package pantry.desktop.look3d;

import org.jspecify.annotations.NullMarked;
