import { Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'ct-not-here',
  imports: [RouterLink],
  template: `<div class="page">
    <div class="main stack">
      <h1>There is no such page</h1>
      <p>The address may be mistyped. <a routerLink="/make">To the bench</a></p>
    </div>
  </div>`,
})
export class NotHere {}
