package pantry.desktop.scenes;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.scene.Drawers;
import pantry.scene.Focus;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** The open scene's drawers, and the focuses that say which of them are shown. */
public final class SceneDrawers {
    private final OpenScene scene;
    private final ObjectProperty<Optional<Focus>> focus = new SimpleObjectProperty<>(Optional.empty());
    private Set<SdfPath> unloaded = Set.of();

    SceneDrawers(OpenScene scene) {
        this.scene = scene;
        scene.whenOpened(opened -> opened(), closed -> {});
    }

    /** Begins with another scene. */
    private void opened() {
        unloaded = Set.of();
        focus.set(Optional.empty());
    }

    /** What is not drawn because its drawer, or the focus, leaves it out. */
    Set<SdfPath> hidden(Scene open) {
        Set<SdfPath> away = new HashSet<>(open.drawers().in(state -> state.hidden() || state.unloaded()));
        focus.get().ifPresent(by -> {
            away.addAll(open.drawers().members(by.hidden()));
            away.addAll(open.drawers().members(by.unloaded()));
        });
        return away;
    }

    /**
     * Reads, or no longer reads, what drawers and the focus say; whatever changed them, what is drawn next is to be as they say.
     *
     * @return whether that was otherwise before
     */
    boolean load(Scene open) {
        Set<SdfPath> wanted = new HashSet<>(open.drawers().in(Drawers.State::unloaded));
        focus.get().ifPresent(by -> wanted.addAll(open.drawers().members(by.unloaded())));
        if (wanted.equals(unloaded)) {
            return false;
        }
        open.load(path -> !path.startsWithAny(wanted));
        unloaded = wanted;
        return true;
    }

    /** Puts what is selected into a drawer. */
    public void put(String drawer) {
        scene.arrange(open -> open.drawers().put(drawer, scene.selected()));
    }

    /** Takes what is selected out of a drawer. */
    public void take(String drawer) {
        scene.arrange(open -> open.drawers().take(drawer, scene.selected()));
    }

    public void remove(String drawer) {
        scene.act(open -> open.drawers().remove(drawer));
    }

    /** Hides, locks or unloads a drawer. */
    public void set(String drawer, Drawers.State state) {
        scene.act(open -> open.drawers().set(drawer, state));
    }

    /** Whether a drawer locks an object, so that it is not picked in the view. */
    public boolean isLocked(SdfPath path) {
        return scene.get()
                .filter(open -> path.startsWithAny(open.drawers().in(Drawers.State::locked)))
                .isPresent();
    }

    /** Leaves out what a kept way of showing leaves out; empty for the usual one. */
    void show(Optional<Focus> by) {
        focus.set(by);
    }

    /** Whether the focus shows proxies and bare surfaces. */
    boolean isLight() {
        return focus.get().filter(each -> each.detail() == Focus.Detail.LIGHT).isPresent();
    }

    public ObjectProperty<Optional<Focus>> focusProperty() {
        return focus;
    }

    /** Keeps how the scene is seen now, under a name. */
    void keepFocus(String name, Focus.Detail detail, Focus.Eye from) {
        scene.act(open -> {
            Set<String> away = new HashSet<>();
            Set<String> unread = new HashSet<>();
            focus.get().ifPresent(by -> {
                away.addAll(by.hidden());
                unread.addAll(by.unloaded());
            });
            for (Drawers.Drawer drawer : open.drawers().all()) {
                Drawers.State state = open.drawers().state(drawer.name());
                if (state.unloaded()) {
                    unread.add(drawer.name());
                } else if (state.hidden()) {
                    away.add(drawer.name());
                }
            }
            open.focuses().keep(new Focus(name, detail, away, unread, Optional.of(from)));
        });
    }

    public void removeFocus(String name) {
        scene.act(open -> open.focuses().remove(name));
    }
}
