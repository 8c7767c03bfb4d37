package pantry.desktop.shelves;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.PantryException;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.usecase.MixParts;
import pantry.usecase.MixParts.Change;

/** What is wished of a material: which part is mixed in or taken out, and how much shows; the card shows the outcome. */
final class MixModel {
    /** Of the images that are made for looking, pixels. */
    private static final int TRIAL = 256;

    private static final double USUAL_AMOUNT = 0.7;

    private final CardModel.Details details;
    private final CardModel card;
    private final MixParts mix;
    private final LatestWork trials;
    private final ReadOnlyObjectWrapper<Map<Asset, Boolean>> parts = new ReadOnlyObjectWrapper<>(Map.of());
    private final ReadOnlyObjectWrapper<List<MixParts.Mixed>> mixed = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyBooleanWrapper read = new ReadOnlyBooleanWrapper();
    private final ObjectProperty<Optional<Asset>> part = new SimpleObjectProperty<>(Optional.empty());
    private final DoubleProperty amount = new SimpleDoubleProperty(USUAL_AMOUNT);
    private final BooleanProperty masked = new SimpleBooleanProperty(true);
    private final BooleanProperty out = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<Optional<Wish>> wish = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");
    private boolean ended;

    /**
     * A change that can be published.
     *
     * @param note what is said of it where the user says nothing else
     */
    record Wish(Change change, String note) {}

    /** @param card of the material, which shows what it would become */
    MixModel(Session session, CardModel.Details details, CardModel card) {
        this.details = details;
        this.card = card;
        this.mix = details.mixParts(session);
        this.trials = new LatestWork(session.background());
        part.addListener(change -> chosen());
        List.of(amount, masked, out).forEach(each -> each.addListener(change -> tryOut()));
        new LatestWork(session.background())
                .quietly(
                        "looking for material parts",
                        progress -> new Found(mix.available(), mix.parts(details.asset())),
                        this::found,
                        this::failed);
    }

    private record Found(Map<Asset, Boolean> parts, List<MixParts.Mixed> mixed) {}

    private void found(Found found) {
        parts.set(found.parts());
        mixed.set(found.mixed());
        read.set(true);
        // What is mixed in already is what one comes back for.
        part.set(found.mixed().reversed().stream()
                .flatMap(each -> each.asset().stream())
                .filter(found.parts()::containsKey)
                .findFirst()
                .or(() -> found.parts().keySet().stream().findFirst()));
    }

    /** The parts that the library has, ready to be used, and whether each has a mask. */
    ReadOnlyObjectProperty<Map<Asset, Boolean>> partsProperty() {
        return parts.getReadOnlyProperty();
    }

    /** Whether it is known by now which parts there are. */
    ReadOnlyBooleanProperty readProperty() {
        return read.getReadOnlyProperty();
    }

    /** The parts that are mixed in already, the lowest first. */
    ReadOnlyObjectProperty<List<MixParts.Mixed>> mixedProperty() {
        return mixed.getReadOnlyProperty();
    }

    ObjectProperty<Optional<Asset>> partProperty() {
        return part;
    }

    /** How much of the part shows, 0 to 1. */
    DoubleProperty amountProperty() {
        return amount;
    }

    /** Whether it shows where its mask says. */
    BooleanProperty maskedProperty() {
        return masked;
    }

    /** Whether it is taken out. */
    BooleanProperty outProperty() {
        return out;
    }

    /** What can be published; empty where nothing is chosen, or it cannot be done. */
    ReadOnlyObjectProperty<Optional<Wish>> wishProperty() {
        return wish.getReadOnlyProperty();
    }

    /** Why what is wished cannot be done; empty where it can. */
    ReadOnlyStringProperty problemProperty() {
        return problem.getReadOnlyProperty();
    }

    /** Whether the part that is chosen says by a mask where it shows. */
    boolean hasMask() {
        return part.get().map(asset -> parts.get().getOrDefault(asset, false)).orElse(false);
    }

    /** How the part that is chosen is mixed in already. */
    Optional<MixParts.Mixed> already() {
        return part.get().flatMap(asset -> mixed.get().stream()
                .filter(each -> each.asset()
                        .filter(other -> other.card().id().equals(asset.card().id()))
                        .isPresent())
                .findFirst());
    }

    private void chosen() {
        Optional<MixParts.Mixed> before = already();
        out.set(false);
        before.ifPresent(each -> {
            amount.set(each.amount().orElse(USUAL_AMOUNT));
            masked.set(each.masked());
        });
        tryOut();
    }

    private void tryOut() {
        if (ended || part.get().isEmpty()) {
            return;
        }
        Asset asset = part.get().get();
        String name = asset.card().name();
        Change change = out.get()
                ? new Change.Out(asset)
                : new Change.In(asset, Math.round(100 * amount.get()) / 100.0, masked.get());
        String note = out.get()
                ? "without " + name
                : "with " + Math.round(100 * amount.get()) + " % " + name
                        + (masked.get() || !hasMask() ? "" : " everywhere");
        wish.set(Optional.of(new Wish(change, note)));
        problem.set("");
        trials.quietly(
                "mixing " + name + " into " + details.item().name(),
                progress -> mix.outcome(details.asset(), change, TRIAL, progress),
                outcome -> {
                    if (!ended) {
                        card.tryOut(outcome.model());
                    }
                },
                this::failed);
    }

    private void failed(PantryException why) {
        wish.set(Optional.empty());
        problem.set(String.valueOf(why.getMessage()));
    }

    /** Shows the material as it is again. */
    void end() {
        ended = true;
        trials.drop();
        card.showAsItIs();
    }
}
