package pantry.desktop.frame;

import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;

/**
 * The workplaces in their order, and which of them is shown. Made before the workplaces, which get it as their
 * {@link Navigation}, and told of them by {@link #register}.
 */
public final class Navigator implements Navigation {
    private List<Workplace> workplaces = List.of();
    private final ReadOnlyObjectWrapper<Workplace> current = new ReadOnlyObjectWrapper<>();

    /**
     * Tells which workplaces there are, once.
     *
     * @param all in the order of the rail
     * @param first the one that is shown at the start
     */
    public void register(List<Workplace> all, Workplace first) {
        if (!workplaces.isEmpty()) {
            throw new IllegalStateException("the workplaces are registered already");
        }
        workplaces = List.copyOf(all);
        current.set(first);
    }

    public List<Workplace> workplaces() {
        return workplaces;
    }

    /** The one that is shown. */
    public ReadOnlyObjectProperty<Workplace> currentProperty() {
        return current.getReadOnlyProperty();
    }

    @Override
    public void go(Workplace workplace) {
        current.set(workplace);
    }

    @Override
    public void send(Request request) {
        for (Workplace workplace : workplaces) {
            var fulfil = workplace.accept(request);
            if (fulfil.isPresent()) {
                go(workplace);
                fulfil.get().run();
                return;
            }
        }
        throw new IllegalStateException("no workplace accepts " + request);
    }
}
