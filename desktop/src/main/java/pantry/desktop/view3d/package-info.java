/** The live view: a scene drawn by the core, turned and picked with the mouse and the keys. */
@NullMarked
package pantry.desktop.view3d;

import org.jspecify.annotations.NullMarked;
