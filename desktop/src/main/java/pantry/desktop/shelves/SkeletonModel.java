package pantry.desktop.shelves;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.base.PantryException;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Model;
import pantry.usecase.AlikeSkeletons;
import pantry.usecase.AlikeSkeletons.Alike;

/** Figures and motions whose skeletons are like that of the asset on the card, and trying one on the other there. */
public final class SkeletonModel {
    private final Session session;
    private final CardModel card;
    private final LatestWork looking;
    private final LatestWork trials;
    private final ReadOnlyObjectWrapper<List<Alike>> alike = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<Optional<Trial>> trial = new ReadOnlyObjectWrapper<>(Optional.empty());

    /** The asset and its version that were looked for. */
    private Optional<Map.Entry<String, String>> of = Optional.empty();

    private Optional<Model> tried = Optional.empty();

    /**
     * What is shown on the card instead of the asset as it is.
     *
     * @param with the other asset
     * @param misfits what does not fit, for a person
     */
    public record Trial(IndexedAsset with, String figure, String motion, List<String> misfits) {}

    SkeletonModel(Session session, CardModel card) {
        this.session = session;
        this.card = card;
        this.looking = new LatestWork(session.background());
        this.trials = new LatestWork(session.background());
        card.detailsProperty().addListener(change -> look());
        card.previewProperty().addListener(change -> {
            if (trial.get().isPresent() && !card.previewProperty().get().equals(tried)) {
                forget();
            }
        });
    }

    /** The others, those with the most joints in common first. */
    public ReadOnlyObjectProperty<List<Alike>> alikeProperty() {
        return alike.getReadOnlyProperty();
    }

    /** What is tried; empty where the asset is shown as it is. */
    public ReadOnlyObjectProperty<Optional<Trial>> trialProperty() {
        return trial.getReadOnlyProperty();
    }

    private void look() {
        Optional<CardModel.Details> details = card.detailsProperty().get();
        Optional<Map.Entry<String, String>> now =
                details.map(each -> Map.entry(each.item().folder(), each.version()));
        if (!now.equals(of)) {
            alike.set(List.of());
            forget();
        }
        of = now;
        if (details.isEmpty() || details.get().facts().joints().isEmpty()) {
            looking.drop();
            return;
        }
        CardModel.Details shown = details.get();
        looking.quietly(
                "looking for skeletons like that of " + shown.item().name(),
                progress -> AlikeSkeletons.of(
                        shown.facts().joints(),
                        session.shelving().finder().items().stream()
                                .filter(other -> !other.id().equals(shown.item().id()))
                                .toList(),
                        session.shelving()::asset,
                        progress),
                alike::set,
                // It is told where somebody opens what cannot be read.
                problem -> {});
    }

    /** Whether one could do what the other does. */
    public boolean isTriable(Alike other) {
        boolean moves = !other.item().moving().motions().isEmpty();
        return isMotion() != other.isMotion() || !isMotion() && moves;
    }

    /** Whether the asset on the card is a motion, which figures do; of figures, the one on the card does what the other does. */
    boolean isMotion() {
        return card.detailsProperty()
                .get()
                .filter(details -> details.asset().card().kind() == AssetKind.MOTION)
                .isPresent();
    }

    /** Shows on the card the figure of both that does what the other does. */
    public void tryOut(Alike other) {
        CardModel.Details shown = card.detailsProperty().get().orElseThrow();
        Map<String, String> variants = card.variantsProperty().get();
        boolean onOther = isMotion();
        trials.answer(
                "trying " + other.item().name(),
                progress -> {
                    Asset asset = session.shelving().asset(other.item());
                    Model own = session.workbench()
                            .preview(shown.asset(), shown.version())
                            .model(variants, false);
                    Model its = session.workbench()
                            .preview(asset, other.item().version())
                            .model(Map.of(), false);
                    Model figure = onOther ? its : own;
                    return AlikeSkeletons.tried(figure, onOther ? own : its)
                            .orElseThrow(() -> new PantryException(
                                    asset.folder(), "has no motion of joints that " + figure.name() + " has"));
                },
                result -> {
                    tried = Optional.of(result.model());
                    String name = shown.item().name();
                    trial.set(Optional.of(new Trial(
                            other.item(),
                            onOther ? other.item().name() : name,
                            onOther ? name : other.item().name(),
                            result.misfits())));
                    card.tryOut(result.model());
                });
    }

    /** Shows the asset as it is. */
    public void end() {
        if (trial.get().isPresent()) {
            forget();
            card.showAsItIs();
        }
    }

    private void forget() {
        trials.drop();
        tried = Optional.empty();
        trial.set(Optional.empty());
    }
}
