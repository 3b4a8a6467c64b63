import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, ReactiveFormsModule, Validators } from '@angular/forms';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** Longest name of a project or an object. */
const MOST_NAME = 120;

/** What is given another name. */
export interface Renamed {
  readonly name: string;
  /** What it is called where no name is given; a name has to be given where it is not there. */
  readonly otherwise?: string;
}

/** Asks for another name of a project or an object; closes with it, or with nothing. */
@Component({
  selector: 'kite-rename-dialog',
  imports: [MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <form (submit)="keep($event)">
      <h2 mat-dialog-title>Rename</h2>
      <mat-dialog-content>
        <mat-form-field appearance="outline">
          <mat-label>Name</mat-label>
          <input
            #field
            matInput
            autocomplete="off"
            cdkFocusInitial
            [formControl]="name"
            [maxlength]="most"
            [placeholder]="data.otherwise ?? ''"
            (focus)="field.select()"
          />
          @if (data.otherwise !== undefined) {
            <mat-hint>Without one it is called {{ data.otherwise }}.</mat-hint>
          }
          @if (name.invalid) {
            <mat-error>A project needs a name.</mat-error>
          }
        </mat-form-field>
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button class="quiet-button" type="button" mat-dialog-close>Leave it</button>
        <button class="solid-button" type="submit">Rename</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-form-field {
      width: min(380px, 70vw);
      margin-top: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RenameDialog {
  private readonly dialog = inject<MatDialogRef<RenameDialog, string>>(MatDialogRef);
  protected readonly data = inject<Renamed>(MAT_DIALOG_DATA);
  protected readonly most = MOST_NAME;
  protected readonly name = new FormControl(this.data.name, {
    nonNullable: true,
    validators: this.data.otherwise === undefined ? [Validators.required, Validators.pattern(/\S/)] : [],
  });

  protected keep(event: Event): void {
    event.preventDefault();
    this.name.markAsTouched();
    if (this.name.valid) this.dialog.close(this.name.value.trim());
  }
}
