package pantry.scene;

import java.util.ArrayList;
import java.util.List;
import pantry.usd.Value;

/** The kept ways to look at a scene, in the layer's {@code customLayerData}; they change nothing of what it shows. */
public final class Focuses {
    private static final String KEPT = "pantryFocuses";

    private final SceneLayer scene;

    Focuses(SceneLayer scene) {
        this.scene = scene;
    }

    /** All, in the order of their numbers. */
    public List<Focus> all() {
        return CustomData.read(scene.layer().metadata().get(CustomData.LAYER), KEPT, Focus[].class)
                .map(List::of)
                .orElse(List.of());
    }

    /**
     * Keeps a focus, in the place of the one of its name or as the last.
     *
     * @throws SceneException where the focus has no name
     */
    public void keep(Focus focus) {
        if (focus.name().isBlank()) {
            throw new SceneException(scene.file(), "a focus needs a name");
        }
        List<Focus> all = new ArrayList<>(all());
        int place = all.stream().map(Focus::name).toList().indexOf(focus.name());
        if (place < 0) {
            all.add(focus);
        } else {
            all.set(place, focus);
        }
        write("kept the focus " + focus.name(), all);
    }

    public void remove(String name) {
        List<Focus> all = new ArrayList<>(all());
        if (!all.removeIf(focus -> focus.name().equals(name))) {
            throw new SceneException(scene.file(), "there is no focus \"" + name + "\"");
        }
        write("removed the focus " + name, all);
    }

    private void write(String what, List<Focus> all) {
        Value before = scene.layer().metadata().get(CustomData.LAYER);
        Value after = CustomData.with(before, KEPT, all.isEmpty() ? null : all);
        scene.editor().changeAll(what, edits -> edits.setLayerField(CustomData.LAYER, after));
    }
}
