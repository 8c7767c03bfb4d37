package pantry.scene;

import java.util.Set;
import java.util.TreeSet;
import pantry.usd.Value;

/** The axes along which nothing of a scene is moved by hand, kept with it. */
public final class AxisLocks {
    private static final String KEPT = "pantryAxisLocks";
    private static final String LETTERS = "xyz";

    private final SceneLayer scene;

    AxisLocks(SceneLayer scene) {
        this.scene = scene;
    }

    /** The locked axes: 0 to 2. */
    public Set<Integer> locked() {
        Set<Integer> axes = new TreeSet<>();
        CustomData.read(scene.layer().metadata().get(CustomData.LAYER), KEPT, String.class)
                .ifPresent(letters -> letters.chars()
                        .map(LETTERS::indexOf)
                        .filter(axis -> axis >= 0)
                        .forEach(axes::add));
        return axes;
    }

    /** Locks an axis, or frees it. */
    public void set(int axis, boolean wanted) {
        Set<Integer> axes = new TreeSet<>(locked());
        boolean changed = wanted ? axes.add(axis) : axes.remove(axis);
        if (!changed) {
            return;
        }
        StringBuilder letters = new StringBuilder();
        axes.forEach(each -> letters.append(LETTERS.charAt(each)));
        Value before = scene.layer().metadata().get(CustomData.LAYER);
        Value after = CustomData.with(before, KEPT, letters.isEmpty() ? null : letters.toString());
        scene.editor()
                .changeAll(
                        (wanted ? "locked " : "unlocked ") + LETTERS.charAt(axis),
                        edits -> edits.setLayerField(CustomData.LAYER, after));
    }
}
